import { writeFileSync } from 'node:fs';
import { School } from '@kite-trail/e2e/support/school';
import { benchCaptureDrift } from './capture-drift';
import { benchCaptureSync } from './capture-sync';
import { benchExport } from './export';
import { benchHandwriting } from './handwriting';
import { benchLongExport } from './long-export';
import { benchLongRecording } from './long-recording';
import { benchOpenLesson } from './open-lesson';
import { benchPdf } from './pdf';
import { benchSeek } from './seek';
import { benchSpeech } from './speech';
import { benchSplice } from './splice';
import { benchTrim } from './trim';
import { benchWatch } from './watch';
import { benchWetInk } from './wet-ink';

/** Prints the figures we hold ourselves to; `--json FILE` writes them as one flat object. */
const school = await School.start();
const figures: Record<string, number> = {};
const measures = [
  async () => benchSeek(),
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
];
try {
  for (const measure of measures) Object.assign(figures, await measure(school));
} finally {
  await school.close();
}
for (const [name, value] of Object.entries(figures)) console.log(`${name.padEnd(36)} ${value}`);
const at = process.argv.indexOf('--json');
if (at > 0) writeFileSync(process.argv[at + 1], `${JSON.stringify(figures, null, 2)}\n`);
