import type { ArchivedLesson } from '@kite-trail/core/contract/archive';
import { NOTHING_SAID } from '@kite-trail/core/contract/lesson';
import { NOTHING_EDITED } from '@kite-trail/core/trail/edition';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { Archive } from './read-archive';

const hashOf = async (bytes: Uint8Array<ArrayBuffer>) =>
  Array.from(new Uint8Array(await crypto.subtle.digest('SHA-256', bytes)), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');
const bytesOf = (text: string) => new TextEncoder().encode(text);
const at = '2026-11-30T09:00:00.000Z';
const FOLDER = 'lessons/Knots 1';

/** A lesson with a recording, its voice, and a picture. */
async function archive({
  manifest = (one: object): unknown => one,
  damage = (files: Files) => files,
  level = 0 as 0 | 9,
} = {}): Promise<Uint8Array<ArrayBuffer>> {
  const [marks, voice, chart] = ['marks', 'OggS voice', 'chart'].map(bytesOf);
  const lesson = {
    ...{ id: 'lesson-0001', title: 'Knots', about: NOTHING_SAID, source: null, madeAt: at, between: '' },
    pages: [{ page: wideSquaredPage('page-0001' as PageId), pieces: '' }],
    takes: [
      {
        ...{ id: 'take-0001', name: 'Bowline', startedAt: at, lengthSamples: 48_000, hasSound: true, isBinned: false },
        ...{ plan: { kind: 'carry-on' }, marks: await hashOf(marks), sound: await hashOf(voice), profile: null },
      },
    ],
    edition: {
      ...NOTHING_EDITED,
      programme: [{ kind: 'play', take: 'take-0001', fromSamples: 0, toSamples: 48_000, pace: 1 }],
    },
    versions: [],
    files: [{ asset: await hashOf(chart), name: 'chart.png' }],
    sheets: [],
  } as unknown as ArchivedLesson;
  const files: Files = {
    [`${FOLDER}/lesson.json`]: bytesOf(JSON.stringify(lesson)),
    [`${FOLDER}/takes/marks.bin`]: marks,
    [`${FOLDER}/takes/sound.ogg`]: voice,
    [`${FOLDER}/files/chart`]: chart,
  };
  const list = {
    ...{ form: 'lesson-archive', version: 1, classes: [] },
    lessons: [{ id: lesson.id, title: lesson.title, path: FOLDER }],
    files: await Promise.all(
      Object.entries(files).map(async ([path, bytes]) => ({
        path,
        sizeBytes: bytes.length,
        sha256: await hashOf(bytes),
      })),
    ),
  };
  return zipSync({ 'manifest.json': bytesOf(JSON.stringify(manifest(list))), ...damage(files) }, { level });
}
type Files = Record<string, Uint8Array<ArrayBuffer>>;

const look = async (bytes: BlobPart | Promise<BlobPart>) => (await Archive.open(new Blob([await bytes]))).look();

describe('an archive', () => {
  it('is looked through, and all of its lessons found whole', async () => {
    const done: number[] = [];
    const found = await (await Archive.open(new Blob([await archive()]))).look((share) => done.push(share));
    expect(found).toMatchObject({ isCutOff: false, unread: [] });
    expect(found.lessons[0]).toMatchObject({ lost: [], lesson: { title: 'Knots' } });
    expect(found.lessons[0].assets.map(({ sizeBytes }) => sizeBytes)).toEqual([5, 10, 5]);
    expect(done.at(-1)).toBe(1);
  });

  it.each<[string, string, RegExp, (bytes: Uint8Array<ArrayBuffer>) => Uint8Array<ArrayBuffer> | null]>([
    ['a voice that was changed', 'takes/sound.ogg', /^The voice of “Bowline”$/, () => bytesOf('OggS other')],
    ['a voice that is missing', 'takes/sound.ogg', /^The voice of “Bowline”$/, () => null],
    ['marks that are shorter', 'takes/marks.bin', /^All of “Bowline”$/, (bytes) => bytes.slice(1)],
    ['a picture that is longer', 'files/chart', /^The file “chart.png”$/, () => bytesOf('chart and more')],
  ])('tells of %s, and gives the rest', async (_, path, lost, damaged) => {
    const found = await look(
      archive({
        damage: (files) => {
          const { [`${FOLDER}/${path}`]: bytes, ...others } = files;
          const instead = damaged(bytes);
          return instead ? { ...others, [`${FOLDER}/${path}`]: instead } : others;
        },
      }),
    );
    expect(found.lessons[0].lost).toEqual([expect.stringMatching(lost)]);
    expect(found.lessons[0].assets.length).toBe(path.startsWith('takes/marks') ? 1 : 2);
  });

  it('whose lesson’s list is damaged says so of that lesson', async () => {
    const found = await look(archive({ damage: (files) => ({ ...files, [`${FOLDER}/lesson.json`]: bytesOf('{}') }) }));
    expect(found).toMatchObject({ lessons: [], unread: [{ title: 'Knots', why: expect.stringMatching(/damaged/) }] });
  });

  it.each<[string, BlobPart | Promise<BlobPart>, RegExp]>([
    ['no ZIP', bytesOf('%PDF-1.7'), /no archive/],
    ['empty', new Uint8Array(), /no archive/],
    ['another ZIP', zipSync({ 'holiday.txt': bytesOf('sun') }), /not one of our archives/],
    ['newer', archive({ manifest: (one) => ({ ...one, version: 2 }) }), /newer Kite Trail/],
    ['of a list that is none', archive({ manifest: () => ({ form: 'lesson-archive', version: 1 }) }), /cannot be read/],
    [
      'of a path that climbs out of it',
      archive({ manifest: (one) => ({ ...one, lessons: [{ id: 'lesson-0001', title: 'x', path: '../../etc' }] }) }),
      /cannot be read/,
    ],
  ])('is refused where it is %s', async (_, bytes, why) => {
    await expect(look(bytes)).rejects.toThrow(why);
  });

  it('unpacks no more than it says, whatever a file in it unpacks to', async () => {
    // 64 MB and some, of which the ZIP says that they are five bytes.
    const SIZE = 0x04030201;
    const bomb = new Uint8Array(SIZE);
    const bytes = await archive({ level: 9, damage: (files) => ({ ...files, [`${FOLDER}/files/chart`]: bomb }) });
    expect(bytes.length).toBeLessThan(200_000);
    const view = new DataView(bytes.buffer, bytes.byteOffset);
    let said = 0;
    for (let at = 0; at < bytes.length - 4; at++) {
      if (view.getUint32(at, true) !== SIZE) continue;
      view.setUint32(at, 5, true);
      said++;
    }
    expect(said).toBe(2);
    const found = await look(bytes);
    expect(found.lessons[0].lost).toEqual(['The file “chart.png”']);
  });

  it('of which the end is missing gives what comes before it', async () => {
    const whole = await archive();
    for (const share of [0.99, 0.9, 0.7]) {
      const found = await look(whole.slice(0, Math.floor(whole.length * share)));
      expect(found.isCutOff).toBe(true);
      expect(found.lessons.length + found.unread.length).toBe(1);
    }
    await expect(look(whole.slice(0, 40))).rejects.toThrow(/no archive/);
  });
});
