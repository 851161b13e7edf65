import { writeFileSync } from 'node:fs';
import { School } from '@kite-trail/e2e/support/school';
import { benchCaptureDrift } from './capture-drift';
import { benchCrowdedPage } from './crowded-page';
import { median, rounded } from './figures';
import { referenceMs } from './reference';
import { benchCaptureSync } from './capture-sync';
import { benchExport } from './export';
import { benchHandwriting } from './handwriting';
import { benchLargestLesson } from './largest-lesson';
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
import { benchTrim } from './trim';
import { benchWatch } from './watch';
import { benchWetInk } from './wet-ink';

/** Prints the figures we hold ourselves to; `--json FILE` writes them as one flat object. */
const school = await School.start();
const figures: Record<string, number> = {};
const measures = [
  async () => benchSeek(),
  async () => benchCrowdedPage(),
  async () => benchHandwriting(),
  async () => benchSpeech(),
  async () => benchCaptureDrift(),
  benchCaptureSync,
  benchLongRecording,
  benchWetInk,
  benchOpenLesson,
  benchWatch,
  benchPdf,
  benchTrim,
  benchSplice,
  benchExport,
  benchLongExport,
  benchStorm,
  async () => benchSearch(),
  async () => benchLoad(),
  async () => benchLargestLesson(),
];
const references: number[] = [];
try {
  for (const measure of measures) {
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

const at = process.argv.indexOf('--json');
if (at > 0) writeFileSync(process.argv[at + 1], `${JSON.stringify(figures, null, 2)}\n`);

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
