import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  ARCHIVE,
  archivedLesson,
  archiveManifest,
  assetsOfArchived,
  type ArchivedLesson,
  type ArchiveManifest,
  type LessonWanted,
} from '@kite-trail/core/contract/archive';
import { NOTHING_SAID, type LessonDocument } from '@kite-trail/core/contract/lesson';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { InkPoints } from '@kite-trail/core/ink/points';
import { marks, TAKE_SAMPLES } from '@kite-trail/core/testing/arbitraries';
import { anyChange } from '@kite-trail/core/testing/beyond-limits';
import { createCanvas } from '@napi-rs/canvas';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { nanoid } from 'nanoid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addFile,
  assetIdOf,
  changesBody,
  json,
  messageOf,
  part,
  startTestServer,
  trimBody,
  uploaded,
  type Caller,
  type TestServer,
} from '../testing';

let here: TestServer;
let elsewhere: TestServer;
let owner: Caller;
let newcomer: Caller;
let lesson: LessonDocument;

const stroke = newStroke({
  id: 'stroke-0001' as PieceId,
  z: 1,
  pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
  points: InkPoints.from([
    { xPt: 100, yPt: 100, pressure: 0.5, sinceMs: 0 },
    { xPt: 140, yPt: 120, pressure: 0.6, sinceMs: 16 },
  ]),
});

beforeAll(async () => {
  here = await startTestServer();
  elsewhere = await startTestServer();
  owner = await here.signedIn('owner@example.org');
  newcomer = await elsewhere.signedIn('newcomer@example.org');
  const { id, pages } = await json<LessonDocument>(owner('POST', '/lessons', { title: 'Knots / “hitches”' }));
  const page = pages[0].page.id;
  await addFile(owner, id, createCanvas(40, 30).toBuffer('image/png'), '../a chart.png');
  const pdf = Buffer.concat([Buffer.from('%PDF-1.7'), Buffer.alloc(700_000, 'chart ')]);
  await addFile(owner, id, pdf, 'chart.pdf');
  await owner('PUT', `/lessons/${id}/assets/${assetIdOf(pdf)}/pages/0`, createCanvas(30, 40).toBuffer('image/webp'));
  await owner('PUT', `/lessons/${id}/about`, { ...NOTHING_SAID, description: 'Ease, then haul.', tags: ['rope'] });
  await owner('POST', `/lessons/${id}/takes`, { id: 'take-0001', hasSound: true });
  const ink = { kind: 'ink', atSamples: 4800, page, stroke } as const;
  const voice = Buffer.concat([Buffer.from('OggS'), Buffer.alloc(600_000, 7)]);
  await owner('PUT', '/takes/take-0001/parts/0', part(96_000, { marks: [ink], sound: voice }));
  const recorded = await json<LessonDocument>(owner('POST', '/takes/take-0001/end', { parts: 1 }));
  await owner('POST', `/lessons/${id}/versions`, { name: 'Long one' });
  await owner('PUT', `/lessons/${id}/edition`, trimBody(recorded, 0, 48_000));
  const turn = { kind: 'turn', atSamples: 0, page: page as PageId } as const;
  await owner('POST', `/lessons/${id}/changes`, changesBody(recorded, [turn]));
  // One that broke off.
  await owner('POST', `/lessons/${id}/takes`, { id: 'take-0002', hasSound: true });
  await owner('PUT', '/takes/take-0002/parts/0', part(9600, { sound: Buffer.from('OggS more') }));
  lesson = await json<LessonDocument>(owner('GET', `/lessons/${id}`));
});
afterAll(() => Promise.all([here.close(), elsewhere.close()]));

interface Unpacked {
  bytes: Buffer;
  files: Map<string, Uint8Array>;
  manifest: ArchiveManifest;
}

async function archived(by: Caller, path: string): Promise<Unpacked> {
  const answer = await by('GET', path);
  expect(answer.status).toBe(200);
  const bytes = Buffer.from(await answer.arrayBuffer());
  expect(answer.headers.get('content-length')).toBe(String(bytes.length));
  const files = new Map(Object.entries(unzipSync(bytes)));
  return { bytes, files, manifest: archiveManifest.parse(jsonOf(files.get(ARCHIVE.manifest)!)) };
}

const jsonOf = (bytes: Uint8Array): unknown => JSON.parse(Buffer.from(bytes).toString());
const lessonIn = ({ files, manifest }: Unpacked, n = 0): ArchivedLesson =>
  archivedLesson.parse(jsonOf(files.get(`${manifest.lessons[n].path}/lesson.json`)!));

/** Sends what is missing of an archived lesson, and has it made. */
async function bringIn(
  by: Caller,
  archive: Unpacked,
  { isCopy = false, classes = [] as string[], change = (one: ArchivedLesson): unknown => one } = {},
): Promise<Response> {
  const brought = lessonIn(archive);
  const assets = [...assetsOfArchived(brought).keys()];
  const { missing } = await json<LessonWanted>(by('POST', '/archives/wanted', { lesson: brought.id, assets }));
  for (const asset of missing) {
    const { path } = archive.manifest.files.find(({ sha256 }) => sha256 === asset)!;
    await uploaded(by, archive.files.get(path)!);
  }
  return by('POST', '/archives/lessons', { lesson: change(brought), isCopy, classes });
}

function writable<Body>(write: () => Body): Body | null {
  try {
    return write();
  } catch {
    return null;
  }
}

const count = async (at: TestServer, table: string) => Number((await at.db(table).count({ n: '*' }).first())!.n);

describe('an archive', () => {
  it('holds all of a lesson, each file with its size and hash, readable by others', async () => {
    const { bytes, files, manifest } = await archived(owner, `/lessons/${lesson.id}/archive`);
    const at = join(mkdtempSync(join(tmpdir(), 'kite-trail-')), 'archive.zip');
    writeFileSync(at, bytes);
    // Info-ZIP reads it, with the check sums, and finds nothing wrong.
    expect(execFileSync('unzip', ['-t', at]).toString()).toMatch(/No errors detected/);
    expect([...files.keys()][0]).toBe(ARCHIVE.manifest);
    expect(manifest.files.map(({ path }) => path).sort()).toEqual(
      [...files.keys()].filter((path) => path !== ARCHIVE.manifest).sort(),
    );
    for (const { path, sizeBytes, sha256 } of manifest.files) {
      expect(files.get(path)!.length, path).toBe(sizeBytes);
      expect(assetIdOf(files.get(path)!), path).toBe(sha256);
    }
    const names = [...files.keys()].map((path) => path.replace(`${manifest.lessons[0].path}/`, ''));
    expect(names).toEqual(
      expect.arrayContaining(['lesson.json', 'ink.inkml', 'picture.png', 'chapters.vtt', 'takes/take-0001/sound.ogg']),
    );
    expect(names.filter((path) => /\.\.\/|[:\\]/.test(path))).toEqual([]);
    expect(Buffer.from(files.get(`${manifest.lessons[0].path}/ink.inkml`)!).toString()).toMatch(/<trace /);
  });

  it('goes on where a download broke off, byte for byte, and begins anew when the lesson has changed', async () => {
    const path = `/lessons/${lesson.id}/archive`;
    const { bytes } = await archived(owner, path);
    const whole = await owner('GET', path);
    const etag = whole.headers.get('etag')!;
    expect(Buffer.compare(Buffer.from(await whole.arrayBuffer()), bytes)).toBe(0);
    const rest = await owner('GET', path, undefined, { range: 'bytes=300000-', 'if-range': etag });
    expect(rest.status).toBe(206);
    expect(Buffer.compare(Buffer.from(await rest.arrayBuffer()), bytes.subarray(300_000))).toBe(0);
    const anew = await owner('GET', path, undefined, { range: 'bytes=300000-', 'if-range': '"another"' });
    expect(anew.status).toBe(200);
    await anew.arrayBuffer();
  });
});

describe('a download of an archive', () => {
  it('says how large it will be, and harms nobody when it is broken off or something of it has gone', async () => {
    const path = `/lessons/${lesson.id}/archive`;
    const { bytes } = await archived(owner, path);
    const head = await owner('HEAD', path);
    expect(head.headers.get('content-length')).toBe(String(bytes.length));
    for (let n = 0; n < 3; n++) {
      const left = (await owner('GET', path)).body!.getReader();
      await left.read();
      await left.cancel();
    }
    const voice = lesson.takes[0].sound!;
    const chunks = await here.db('asset_chunks').where({ asset_id: voice });
    await here.db('asset_chunks').where({ asset_id: voice }).delete();
    await expect(owner('GET', path).then((answer) => answer.arrayBuffer())).rejects.toThrow();
    await here.db('asset_chunks').insert(chunks);
    expect((await archived(owner, path)).bytes.length).toBe(bytes.length);
  });
});

describe('a lesson out of an archive', () => {
  it('is the same on another server: its pages, recordings, edits, versions and files', async () => {
    const archive = await archived(owner, `/lessons/${lesson.id}/archive`);
    const brought = await json<LessonDocument>(bringIn(newcomer, archive));
    expect(brought.id).toBe(lesson.id);
    expect(brought.title).toBe(lesson.title);
    expect(brought.edition).toEqual(lesson.edition);
    expect(brought.takes.map(({ id, lengthSamples }) => [id, lengthSamples])).toEqual([
      ['take-0001', 96_000],
      ['take-0002', 9600],
    ]);
    expect(Buffer.from(await (await newcomer('GET', '/takes/take-0001/sound')).arrayBuffer()).length).toBe(600_004);
    // What comes out there is what went in.
    const again = await archived(newcomer, `/lessons/${brought.id}/archive`);
    expect(lessonIn(again)).toEqual(lessonIn(archive));
    const payload = ({ manifest }: Unpacked) => manifest.files.map(({ path, sha256 }) => [path, sha256]).sort();
    expect(payload(again)).toEqual(payload(archive));
  });

  it('is the same, whatever was drawn, changed and recorded in it', async () => {
    const heard = fc.uint8Array({ maxLength: 2000 }).map((bytes) => Buffer.concat([Buffer.from('OggS'), bytes]));
    const everything = fc.tuple(fc.array(anyChange, { maxLength: 12 }), marks, fc.option(heard), fc.string());
    const painter = await here.signedIn('painter@example.org');
    await fc.assert(
      fc.asyncProperty(everything, async ([changes, recorded, voice, name]) => {
        const made = await json<LessonDocument>(painter('POST', '/lessons', { title: 'Any' }));
        // What no lesson takes is refused, and is not in it.
        for (const change of changes) {
          const now = await json<LessonDocument>(painter('GET', `/lessons/${made.id}`));
          // Some cannot even be written.
          const body = writable(() => changesBody(now, [change]));
          if (body) await painter('POST', `/lessons/${made.id}/changes`, body);
        }
        const take = nanoid(16);
        await painter('POST', `/lessons/${made.id}/takes`, { id: take, hasSound: voice !== null });
        const sound = voice ?? new Uint8Array();
        await painter('PUT', `/takes/${take}/parts/0`, part(TAKE_SAMPLES, { marks: recorded, sound }));
        await painter('POST', `/takes/${take}/end`, { parts: 1 });
        await painter('PUT', `/takes/${take}/name`, { name });
        const archive = await archived(painter, `/lessons/${made.id}/archive`);
        const brought = await json<LessonDocument>(bringIn(newcomer, archive));
        const again = await archived(newcomer, `/lessons/${brought.id}/archive`);
        expect(lessonIn(again)).toEqual(lessonIn(archive));
        const bytes = ({ manifest }: Unpacked) => manifest.files.map(({ path, sha256 }) => `${path} ${sha256}`);
        expect(bytes(again)).toEqual(bytes(archive));
      }),
      { numRuns: 15 },
    );
  });

  it('is known where it is, and comes as a copy when that is wanted', async () => {
    const archive = await archived(owner, `/lessons/${lesson.id}/archive`);
    const wanted = { lesson: lesson.id, assets: [...assetsOfArchived(lessonIn(archive)).keys()] };
    expect(await json<LessonWanted>(owner('POST', '/archives/wanted', wanted))).toMatchObject({ isHere: 'yes' });
    const lessons = await count(here, 'lessons');
    const refused = await bringIn(owner, archive);
    expect(refused.status).toBe(409);
    expect(await messageOf(refused)).toMatch(/here already/);
    expect(await count(here, 'lessons')).toBe(lessons);
    const copy = await json<LessonDocument>(bringIn(owner, archive, { isCopy: true }));
    expect(copy.title).toBe(`${lesson.title} (copy)`);
    expect(copy.id).not.toBe(lesson.id);
    expect(copy.takes.map(({ marks, sound }) => [marks, sound])[0]).toEqual(
      lesson.takes.map(({ marks, sound }) => [marks, sound])[0],
    );
    expect(copy.edition.programme.map(({ take }) => take)).toEqual([copy.takes[0].id]);
  });

  it('takes nothing that is somebody else’s, whatever it names', async () => {
    const archive = await archived(owner, `/lessons/${lesson.id}/archive`);
    const thief = await here.signedIn('thief@example.org');
    const brought = lessonIn(archive);
    const [lessons, assets] = [await count(here, 'lessons'), await count(here, 'assets')];
    const refused = await thief('POST', '/archives/lessons', { lesson: brought, isCopy: false, classes: [] });
    expect(refused.status).toBe(409);
    expect(await messageOf(refused)).toMatch(/not arrived/);
    expect([await count(here, 'lessons'), await count(here, 'assets')]).toEqual([lessons, assets]);
    // With all its bytes it is theirs, under other names: the owner's stays as it is.
    const own = await json<LessonDocument>(bringIn(thief, archive));
    expect(own.id).not.toBe(lesson.id);
    expect((await json<LessonDocument>(owner('GET', `/lessons/${lesson.id}`))).takes).toEqual(lesson.takes);
    expect((await thief('GET', `/lessons/${lesson.id}`)).status).toBe(404);
    expect((await thief('GET', `/archive?lessons=${lesson.id}`)).status).toBe(400);
  });

  it('takes nothing for what it is not, though its teacher has it', async () => {
    const archive = await archived(owner, `/lessons/${lesson.id}/archive`);
    const before = await count(here, 'lessons');
    const [{ asset: png }] = lessonIn(archive).files;
    const refused: [(one: ArchivedLesson) => unknown, RegExp][] = [
      [
        (one) => ({ ...one, takes: [{ ...one.takes[0], sound: png }, ...one.takes.slice(1)] }),
        /voice in this lesson is none/,
      ],
      [
        (one) => ({ ...one, files: [...one.files, { asset: one.takes[0].marks, name: 'marks.png' }] }),
        /PNG|picture|PDF/,
      ],
    ];
    for (const [change, message] of refused) {
      const answer = await bringIn(owner, archive, { isCopy: true, change });
      expect([answer.status, await messageOf(answer)]).toEqual([400, expect.stringMatching(message)]);
    }
    expect(await count(here, 'lessons')).toBe(before);
  });

  it.each<[string, (one: ArchivedLesson) => unknown, RegExp]>([
    ['plays more than was recorded', (one) => ({ ...one, takes: [] }), /never recorded/],
    [
      'has marks that are none',
      (one) => ({ ...one, takes: [{ ...one.takes[0], marks: one.takes[0].sound! }, ...one.takes.slice(1)] }),
      /damaged|newer/,
    ],
    [
      'has a voice that is none',
      (one) => ({ ...one, takes: [{ ...one.takes[0], sound: one.files[0].asset }, ...one.takes.slice(1)] }),
      /.*/,
    ],
    ['has two pages of one name', (one) => ({ ...one, pages: [one.pages[0], one.pages[0]] }), /one name/],
    ['has no page', (one) => ({ ...one, pages: [] }), /.+/],
    ['has pieces that are none', (one) => ({ ...one, pages: [{ ...one.pages[0], pieces: 'AAAA' }] }), /damaged|newer/],
  ])('is refused, and nothing made, when it %s', async (_, change, message) => {
    const other = await elsewhere.signedIn(`other-${Math.random()}@example.org`);
    const archive = await archived(owner, `/lessons/${lesson.id}/archive`);
    const before = await count(elsewhere, 'lessons');
    const refused = await bringIn(other, archive, { isCopy: true, change });
    expect(refused.status).toBe(400);
    expect(await messageOf(refused)).toMatch(message);
    expect(await count(elsewhere, 'lessons')).toBe(before);
  });
});

describe('an archive of several', () => {
  it('holds a class with its lessons, of those its teacher may still see', async () => {
    const { id } = await json<SchoolClass>(owner('POST', '/classes', { name: 'Crew', color: 'sea' }));
    expect((await owner('GET', `/classes/${id}/archive`)).status).toBe(400);
    await owner('POST', '/placing', { lessons: [lesson.id], from: null, to: id, before: null });
    const { manifest } = await archived(owner, `/classes/${id}/archive`);
    expect(manifest.classes).toEqual([{ name: 'Crew', color: 'sea', lessons: [lesson.id] }]);
    expect(manifest.lessons.map((one) => one.id)).toEqual([lesson.id]);
  });

  it('holds chosen lessons, and a whole account', async () => {
    const second = await json<LessonDocument>(owner('POST', '/lessons', { title: 'Bends' }));
    const chosen = await archived(owner, `/archive?lessons=${second.id},${lesson.id},${second.id}`);
    expect(chosen.manifest.lessons.map(({ title }) => title)).toEqual(['Bends', lesson.title]);
    const all = await archived(owner, '/account/data');
    expect(all.manifest.lessons.map(({ id }) => id)).toEqual(expect.arrayContaining([second.id, lesson.id]));
    expect(all.manifest.classes).toHaveLength(1);
  });
});
