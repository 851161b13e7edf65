import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readInkMl } from '@kite-trail/core/formats/inkml/read-inkml';
import { noVisits } from '@kite-trail/core/trail/visits';
import { HIGHEST_PEAK_DBTP, TARGET_LUFS } from '@kite-trail/core/sound/mastering';
import { seeded } from '@kite-trail/core/random/seeded';
import { readAsset } from '@kite-trail/server/assets/assets';
import type { LessonRow, LinkRow, PublicationRow } from '@kite-trail/server/database/rows';
import { openDatabase } from '@kite-trail/server/database/open';
import { gatherInsight } from '@kite-trail/server/insight/insight';
import { describeWatch } from '@kite-trail/server/publishing/describe-watch';
import { doJob } from '@kite-trail/server/work/jobs';
import { startTestServer } from '@kite-trail/server/testing';
import type { Work } from '@kite-trail/server/work/work';
import { beforeAll, expect, it } from 'vitest';
import { loadDemo, loadSecondTerm } from './load';
import { shareDemo } from './sharing/share';
import { madeUpVisits } from './sharing/visits';
import { makeOneOfEach } from './taken-away/one-of-each';
import { SchoolCalls } from './taken-away/school-calls';
import { compass } from './teaching/compass';
import { DEMO_TEACHER } from './teachers';

const total = (counts: readonly number[]) => counts.reduce((sum, one) => sum + one, 0);

const folder = mkdtempSync(join(tmpdir(), 'kite-trail-shared-'));
const address = join(folder, 'kite-trail.sqlite');

beforeAll(async () => {
  const db = await openDatabase(address);
  await loadDemo(db);
  await loadSecondTerm(db);
  await shareDemo(db);
  await db.destroy();
}, 180_000);

it('shares the demo’s lessons with sound as loud as links have it, prompts, questions and visits', async () => {
  const db = await openDatabase(address);
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

const { title } = compass;
const output = (program: string, ...args: string[]) => execFileSync(program, args, { encoding: 'utf8' });

it('makes one of each file of a lesson, as other programs read them', async () => {
  const server = await startTestServer({ address, isThreaded: true });
  const school = await SchoolCalls.signIn(`http://localhost:${server.port}`, DEMO_TEACHER);
  const names = await makeOneOfEach(school, title, folder);
  await server.close();
  const at = (ending: string) => join(folder, title + ending);
  expect(names).toHaveLength(13);
  for (const name of names) expect(statSync(join(folder, name)).size).toBeGreaterThan(500);

  expect(output('pdfinfo', at('.pdf'))).toMatch(new RegExp(`Title: +${title}`));
  expect(output('pdftotext', at('.pdf'), '-')).toContain('Step 1');
  expect(spawnSync('qpdf', ['--check', at('.pdf')]).status).toBe(0);
  const probed = JSON.parse(
    output('ffprobe', '-v', 'error', '-show_streams', '-show_format', '-show_chapters', '-of', 'json', at('.mp4')),
  ) as { streams: { codec_name: string }[]; format: { duration: string }; chapters: object[] };
  expect(probed.streams.map(({ codec_name }) => codec_name).slice(0, 2)).toEqual(['h264', 'aac']);
  expect(Number(probed.format.duration)).toBeCloseTo(71.9, 1);
  expect(probed.chapters.length).toBeGreaterThan(0);
  expect(spawnSync('ffmpeg', ['-v', 'error', '-i', at('.mp4'), '-f', 'null', '-']).stderr.toString()).toBe('');
  for (const ending of [', SCORM.zip', ', archive.zip']) {
    expect(output('unzip', '-t', at(ending))).toContain('No errors detected');
  }
  expect(readInkMl(readFileSync(at('.inkml'), 'utf8')).traces.length).toBeGreaterThan(20);
  expect(output('ffprobe', '-v', 'error', '-show_entries', 'stream=codec_name', '-of', 'csv=p=0', at('.srt'))).toBe(
    'subrip\n',
  );
  expect(readFileSync(at('.html'), 'utf8')).toMatch(/<noscript>/);
});
