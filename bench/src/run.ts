import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { School } from '@kite-trail/e2e/support/school';
import { benchCaptureDrift } from './capture-drift';
import { benchCrowdedPage } from './crowded-page';
import { median, rounded } from './figures';
import { referenceMs } from './reference';
import { benchCaptureSync } from './capture-sync';
import { benchExport } from './export';
import { benchHandwriting } from './handwriting';
import { benchKeeping } from './keeping';
import { benchLargestLesson } from './largest-lesson';
import { benchLive } from './live';
import { benchMarking } from './marking';
import { benchLoad } from './load';
import { benchLongExport } from './long-export';
import { benchLongRecording } from './long-recording';
import { benchOpenLesson } from './open-lesson';
import { benchPdf } from './pdf';
import { benchSearch } from './search';
import { benchSeek } from './seek';
import { benchSpeech } from './speech';
import { benchSplice } from './splice';
import { benchStorm } from './storm';
import { benchStraighten } from './straighten';
import { benchTrim } from './trim';
import { benchWatch } from './watch';
import { benchWatchMemory } from './watch-memory';
import { benchWetInk } from './wet-ink';

/** Prints the figures we hold ourselves to, or those that are named; `--json FILE` writes them as one flat object. */
const { values: options, positionals: named } = parseArgs({
  options: { json: { type: 'string' } },
  allowPositionals: true,
});
const measures: Record<string, (school: School) => Promise<Record<string, number>>> = {
  seek: async () => benchSeek(),
  'crowded-page': async () => benchCrowdedPage(),
  handwriting: async () => benchHandwriting(),
  speech: async () => benchSpeech(),
  'capture-drift': async () => benchCaptureDrift(),
  'capture-sync': benchCaptureSync,
  'long-recording': benchLongRecording,
  'wet-ink': benchWetInk,
  'open-lesson': benchOpenLesson,
  watch: benchWatch,
  'watch-memory': benchWatchMemory,
  pdf: benchPdf,
  trim: benchTrim,
  splice: benchSplice,
  export: benchExport,
  'long-export': benchLongExport,
  keeping: benchKeeping,
  storm: benchStorm,
  search: async () => benchSearch(),
  straighten: async () => benchStraighten(),
  live: benchLive,
  marking: benchMarking,
  load: async () => benchLoad(),
  'largest-lesson': async () => benchLargestLesson(),
};
const unknown = named.filter((name) => !(name in measures));
if (unknown.length > 0) throw new Error(`There is no ${unknown.join(', ')}, but: ${Object.keys(measures).join(', ')}.`);

const school = await School.start();
const figures: Record<string, number> = {};
const references: number[] = [];
try {
  for (const [name, measure] of Object.entries(measures)) {
    if (named.length > 0 && !named.includes(name)) continue;
    const before = referenceMs();
    const measured = await measure(school);
    const reference = (before + referenceMs()) / 2;
    references.push(reference);
    Object.assign(figures, measured, ratiosOf(measured, reference));
  }
  figures.reference_ms = rounded(median(references));
} finally {
  await school.close();
}
for (const [name, value] of Object.entries(figures)) console.log(`${name.padEnd(36)} ${value}`);

if (options.json) writeFileSync(options.json, `${JSON.stringify(figures, null, 2)}\n`);

/** Every time also as so many times the reference, which was run right before and after it. */
function ratiosOf(measured: Record<string, number>, reference: number): Record<string, number> {
  const inMs = (name: string, value: number) =>
    name.endsWith('_ms') ? value : name.endsWith('_s') ? value * 1000 : null;
  return Object.fromEntries(
    Object.entries(measured).flatMap(([name, value]) => {
      const ms = inMs(name, value);
      return ms === null ? [] : [[`${name}_per_reference`, rounded(ms / reference, 4)]];
    }),
  );
}
