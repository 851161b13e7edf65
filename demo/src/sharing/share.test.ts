import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { noVisits } from '@kite-trail/core/trail/visits';
import { HIGHEST_PEAK_DBTP, TARGET_LUFS } from '@kite-trail/core/sound/mastering';
import { seeded } from '@kite-trail/core/random/seeded';
import { readAsset } from '@kite-trail/server/assets/assets';
import type { LessonRow, LinkRow, PublicationRow } from '@kite-trail/server/database/rows';
import { openDatabase } from '@kite-trail/server/database/open';
import { gatherInsight } from '@kite-trail/server/insight/insight';
import { describeWatch } from '@kite-trail/server/publishing/describe-watch';
import { doJob } from '@kite-trail/server/work/jobs';
import type { Work } from '@kite-trail/server/work/work';
import { expect, it } from 'vitest';
import { loadDemo, loadSecondTerm } from '../load';
import { shareDemo } from './share';
import { madeUpVisits } from './visits';

const total = (counts: readonly number[]) => counts.reduce((sum, one) => sum + one, 0);

it('shares the demo’s lessons with sound as loud as links have it, prompts, questions and visits', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-shared-'));
  const db = await openDatabase(join(folder, 'kite-trail.sqlite'));
  await loadDemo(db);
  await loadSecondTerm(db);
  await shareDemo(db);
  expect(await db<LessonRow>('lessons')).toHaveLength(12);
  const links = await db<LinkRow>('links').orderBy('made_at');
  expect(links.map(({ is_listed, class_id }) => [Boolean(is_listed), class_id !== null])).toEqual(
    Array.from({ length: 4 }, () => [true, true]),
  );
  const publication = (await db<PublicationRow>('publications').where({ id: links[0].publication_id }).first())!;
  const work: Work = { do: (name, _owner, asked) => doJob(db, name, asked) };
  const about = await describeWatch({ db, work }, links[0], publication);
  expect(about).toMatchObject({ title: 'From chart to compass', hasSound: true, hasCaptions: true, mayAsk: true });
  expect([about.prompts.length, about.questions.length, about.chapters.length]).toEqual([1, 1, 4]);
  const { links: counted } = await gatherInsight(db, { lesson: links[0].lesson_id });
  expect(counted[0].visits).toBe(31);
  expect(total(counted[0].sums.furthest)).toBe(31);
  expect(total(counted[0].days.map(({ visits }) => visits))).toBe(31);

  const file = join(folder, 'sound.m4a');
  writeFileSync(file, await readAsset(db, publication.sound_asset!));
  // Both ears hear it (ITU-R BS.1770-4, "dual mono"), as a listener does.
  const filter = ['-map', 'a', '-af', 'ebur128=peak=true:dualmono=true', '-f', 'null', '-'];
  const { stderr } = spawnSync('ffmpeg', ['-i', file, ...filter], { encoding: 'utf8' });
  const told = (name: RegExp) => Number(name.exec(stderr.slice(stderr.lastIndexOf('Summary')))![1]);
  expect(Math.abs(told(/I:\s+(\S+)/) - TARGET_LUFS)).toBeLessThanOrEqual(0.5);
  expect(told(/Peak:\s+(\S+)/)).toBeLessThanOrEqual(HIGHEST_PEAK_DBTP);
  await db.destroy();
});

it('makes up visits that end somewhere, each once', () => {
  const length = 70 * 48_000;
  const { sums, daysAgo } = madeUpVisits(length, { visits: 50, hardAt: [length / 2] }, seeded(7));
  expect([total(sums.stopped), total(sums.furthest), total(daysAgo)]).toEqual([50, 50, 50]);
  expect(total(sums.wentBack)).toBeGreaterThan(0);
  expect(sums.heard).toHaveLength(noVisits(length).heard.length);
});
