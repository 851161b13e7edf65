import { archivedLesson } from '@kite-trail/core/contract/archive';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { unzipSync } from 'fflate';
import { expect, it } from 'vitest';
import { addFile, assetIdOf, json, part, PASSWORD, testSchool, type Caller } from '../testing';

const { school, call } = testSchool();

/** What a teacher takes out, by path, as another program reads it. */
async function takenOut(by: Caller): Promise<Map<string, Buffer>> {
  const answer = await by('GET', '/account/data');
  expect(answer.status).toBe(200);
  expect(answer.headers.get('content-disposition')).toMatch(/attachment; filename="kite-trail \d{4}-\d\d-\d\d\.zip"/);
  const files = unzipSync(new Uint8Array(await answer.arrayBuffer()));
  return new Map(Object.entries(files).map(([path, bytes]) => [path, Buffer.from(bytes)]));
}

it('is all that is a teacher’s, byte for byte, and nothing of anybody else', async () => {
  const other = await school.server.signedIn('other@example.org');
  await other('POST', '/lessons', { title: 'Not theirs' });

  const { id } = await json<LessonDocument>(call('POST', '/lessons', { title: 'Knots / hitches: “all”' }));
  // Larger than a chunk.
  const chart = Buffer.concat([Buffer.from('%PDF-1.7'), Buffer.alloc(700_000, 'chart ')]);
  await addFile(call, id, chart, '../../a chart.pdf');
  const turn = { kind: 'turn', atSamples: 0, page: 'page-0001' as PageId } as const;
  await call('POST', `/lessons/${id}/takes`, { id: 'take-0001', hasSound: true });
  await call('PUT', '/takes/take-0001/parts/0', part(48_000, { marks: [turn], sound: Buffer.from('OggS voice') }));
  await call('POST', '/takes/take-0001/end', { parts: 1 });
  await call('POST', `/lessons/${id}/takes`, { id: 'take-0002', hasSound: true });
  await call('PUT', '/takes/take-0002/parts/0', part(9600));

  await call('POST', `/lessons/${id}/publications/1`);

  const files = await takenOut(call);
  const folder = `lessons/Knots _ hitches_ _all_ ${id}`;
  expect([...files.keys()].sort()).toEqual(
    [
      'READ ME.txt',
      'manifest.json',
      'account.json',
      'classes.json',
      'students.json',
      'templates/templates.json',
      `${folder}/lesson.json`,
      `${folder}/ink.inkml`,
      `${folder}/chapters.vtt`,
      `${folder}/picture.png`,
      `${folder}/links.json`,
      `${folder}/questions.json`,
      `${folder}/mails.json`,
      `${folder}/watched.json`,
      `${folder}/takes/take-0001/sound.ogg`,
      `${folder}/takes/take-0001/marks.bin`,
      `${folder}/takes/take-0002/sound.ogg`,
      `${folder}/takes/take-0002/marks.bin`,
      `${folder}/files/${assetIdOf(chart).slice(0, 12)} __.._a chart.pdf`,
    ].sort(),
  );
  expect(files.get(`${folder}/takes/take-0001/sound.ogg`)!.toString()).toBe('OggS voice');
  expect(decodeMarks(files.get(`${folder}/takes/take-0001/marks.bin`)!)).toEqual([turn]);
  expect(files.get(`${folder}/takes/take-0002/sound.ogg`)).toEqual(Buffer.of(9600 % 251));
  // To compare them number by number takes so long that the server ends the connection meanwhile.
  expect(Buffer.compare([...files].find(([path]) => path.endsWith('chart.pdf'))![1], chart)).toBe(0);
  const lesson = archivedLesson.parse(JSON.parse(files.get(`${folder}/lesson.json`)!.toString()));
  const shown = await json<LessonDocument>(call('GET', `/lessons/${id}`));
  expect(lesson).toMatchObject({ id, title: shown.title, pages: shown.pages, edition: shown.edition });
  expect(lesson.takes.map((take) => [take.id, take.lengthSamples])).toEqual([
    ['take-0001', 48_000],
    ['take-0002', 9600],
  ]);
  expect(JSON.parse(files.get(`${folder}/links.json`)!.toString())).toEqual(
    await json(call('GET', `/lessons/${id}/links`)),
  );
  const watched = JSON.parse(files.get(`${folder}/watched.json`)!.toString());
  expect(watched).toEqual(await json(call('GET', `/lessons/${id}/insight`)));
  const account = files.get('account.json')!.toString();
  expect(JSON.parse(account)).toMatchObject({ email: 'mate@example.org' });
  expect(account).not.toMatch(new RegExp(`argon2|${PASSWORD}`));
});
