import { LARGEST_UPLOAD_BYTES, UPLOAD_PART_BYTES, uploadPartCount } from '@kite-trail/core/contract/upload';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import { beforeAll, describe, expect, it } from 'vitest';
import type { TeacherRow } from '../database/rows';
import { inTransaction } from '../database/transaction';
import { addFile, assetIdOf, isOnPostgres, json, messageOf, testSchool } from '../testing';
import { addFile as addFileRow } from './lesson-files';
import { checkUpload, keepUploadPart, takeFile } from './uploads';
import { checkArrived } from '../archives/arriving';

const { school, call } = testSchool();
let lesson: LessonDocument;
beforeAll(async () => {
  lesson = await json(call('POST', '/lessons', { title: 'Charts' }));
});

/** A PDF of three parts, unlike any other. */
function pdf(of: string): Buffer {
  const bytes = Buffer.alloc(2 * UPLOAD_PART_BYTES + 777, of);
  bytes.write('%PDF-1.7');
  return bytes;
}
const partOf = (bytes: Buffer, n: number) => bytes.subarray(n * UPLOAD_PART_BYTES, (n + 1) * UPLOAD_PART_BYTES);
const send = (asset: AssetId, n: number, bytes: Uint8Array, as = call) =>
  as('PUT', `/uploads/${asset}/parts/${n}`, bytes);
const arrived = (asset: AssetId, as = call) =>
  json<{ parts: number[]; isHad: boolean }>(as('GET', `/uploads/${asset}`));
const use = (asset: AssetId, as = call, of = lesson) =>
  as('POST', `/lessons/${of.id}/assets`, { asset, name: 'chart.pdf' });

describe('a file', () => {
  it('comes part by part, goes on where it broke off, and is served as it was', async () => {
    const bytes = pdf('a');
    const asset = assetIdOf(bytes);
    await send(asset, 2, partOf(bytes, 2));
    await send(asset, 0, partOf(bytes, 0));
    await send(asset, 0, partOf(bytes, 0));
    expect(await arrived(asset)).toEqual({ parts: [0, 2], isHad: false });
    const early = await use(asset);
    expect(early.status).toBe(409);
    expect(await messageOf(early)).toMatch(/not arrived yet/);
    await send(asset, 1, partOf(bytes, 1));
    expect((await use(asset)).status).toBe(204);
    const served = await call('GET', `/lessons/${lesson.id}/assets/${asset}`);
    expect(served.headers.get('content-type')).toBe('application/pdf');
    expect(Buffer.from(await served.arrayBuffer()).equals(bytes)).toBe(true);
    expect(await arrived(asset)).toEqual({ parts: [], isHad: true });
    const range = await call('GET', `/lessons/${lesson.id}/assets/${asset}`, undefined, {
      range: 'bytes=262143-262145',
    });
    expect(Buffer.from(await range.arrayBuffer())).toEqual(bytes.subarray(262_143, 262_146));
  });

  it('is refused when it is another one than its name says, or larger than a file may be', async () => {
    const asset = assetIdOf(pdf('b'));
    for (const n of [0, 1, 2]) await send(asset, n, partOf(pdf('c'), n));
    const damaged = await use(asset);
    expect(damaged.status).toBe(400);
    expect(await messageOf(damaged)).toMatch(/damaged on its way/);
    await call('DELETE', `/uploads/${asset}`);
    expect(await arrived(asset)).toEqual({ parts: [], isHad: false });
    expect((await send(asset, 0, new Uint8Array(UPLOAD_PART_BYTES + 1))).status).toBe(413);
    expect((await send(asset, LARGEST_UPLOAD_BYTES / UPLOAD_PART_BYTES, Uint8Array.of(1))).status).toBe(413);
    for (const n of ['-1', '1.5', 'x']) {
      expect((await call('PUT', `/uploads/${asset}/parts/${n}`, Uint8Array.of(1))).status).toBe(404);
    }
  });

  it('may be a voice of three hours, which no picture is as large as', async () => {
    const bytes = Buffer.alloc(81 * 2 ** 20, 'three hours');
    bytes.write('OggS');
    const asset = assetIdOf(bytes);
    const { db } = school.server;
    const { id: teacher } = (await db<TeacherRow>('teachers').first())!;
    await inTransaction(db, async (trx) => {
      for (let n = 0; n < uploadPartCount(bytes.length); n++) {
        await keepUploadPart(trx, teacher, asset, n, partOf(bytes, n));
      }
    });
    const looked = (as: 'sound' | 'file') =>
      checkArrived(db, { teacher, asset, uses: new Set([as] as const), isHeld: false });
    expect(await looked('sound')).toMatchObject({ isWhole: true, hash: asset, sizeBytes: bytes.length });
    await expect(looked('file')).rejects.toThrow('A file may have 80 MB at most.');
    const asFile = await use(asset);
    expect([asFile.status, await messageOf(asFile)]).toEqual([413, 'A file may have 80 MB at most.']);
    await call('DELETE', `/uploads/${asset}`);
  });

  it('is nobody’s who has only its name, though the school has it', async () => {
    const bytes = pdf('d');
    const asset = assetIdOf(bytes);
    const other = await school.server.signedIn('stowaway@example.org');
    const theirs = await json<LessonDocument>(other('POST', '/lessons', { title: 'Theirs' }));
    await send(asset, 0, partOf(bytes, 0));
    expect(await arrived(asset, other)).toEqual({ parts: [], isHad: false });
    await addFile(call, lesson.id, bytes);
    expect((await use(asset, other, theirs)).status).toBe(409);
    expect((await other('GET', `/lessons/${theirs.id}/assets/${asset}`)).status).toBe(404);
    // Whoever has its bytes may have it, too; they are kept once.
    expect((await addFile(other, theirs.id, bytes)).status).toBe(204);
    expect(await school.server.db('assets').where({ id: asset })).toHaveLength(1);
    const [{ chunks_of }] = await school.server.db('assets').where({ id: asset });
    expect(await school.server.db('asset_chunks').where({ asset_id: chunks_of })).toHaveLength(3);
    expect(await school.server.db('uploads')).toEqual([]);
  });

  it('is given to two lessons at once, though its parts came once, and again when the answer was lost', async () => {
    const bytes = pdf('g');
    const asset = assetIdOf(bytes);
    const second = await json<LessonDocument>(call('POST', '/lessons', { title: 'More charts' }));
    expect((await use(asset)).status).toBe(409);
    for (const n of [0, 1, 2]) await send(asset, n, partOf(bytes, n));
    const keyed = (of: LessonDocument, key: string) =>
      call('POST', `/lessons/${of.id}/assets`, { asset, name: 'chart.pdf' }, { 'idempotency-key': `"${key}"` });
    const answers = await Promise.all([keyed(lesson, 'for-the-first'), keyed(second, 'for-the-second')]);
    expect(answers.map(({ status }) => status)).toEqual([204, 204]);
    expect((await use(asset)).status).toBe(204);
    for (const { id } of [lesson, second]) {
      expect((await call('GET', `/lessons/${id}/assets/${asset}`)).status).toBe(200);
    }
  });

  it.runIf(isOnPostgres)('is not given up while it is taken, however long it was on its way', async () => {
    const { db } = school.server;
    const teacher = (await db<TeacherRow>('teachers').where({ email: 'mate@example.org' }).first())!.id;
    const bytes = pdf('h');
    const asset = assetIdOf(bytes);
    for (const n of [0, 1, 2]) await send(asset, n, partOf(bytes, n));
    await db('uploads').update({ came_at: '2020-01-01T00:00:00.000Z' });
    const taking = await db.transaction();
    const writer = { teacher: { id: teacher } as TeacherRow, student: null };
    await takeFile(taking, writer, asset, await checkUpload(db, { teacher, asset }));
    await addFileRow(taking, lesson.id, 'chart.pdf', asset);
    // Another teacher's new file gives up what is old, and waits for this one.
    const other = await school.server.signedIn('bosun@example.org');
    const begun = send(assetIdOf(pdf('i')), 0, partOf(pdf('i'), 0), other);
    const waiting = () => db('pg_stat_activity').where({ wait_event_type: 'Lock' }).count({ count: '*' }).first();
    await expect.poll(async () => Number((await waiting())!.count)).toBeGreaterThan(0);
    await taking.commit();
    expect((await begun).status).toBe(204);
    const served = await call('GET', `/lessons/${lesson.id}/assets/${asset}`);
    expect(Buffer.from(await served.arrayBuffer()).equals(bytes)).toBe(true);
  });

  it('that was never whole is given up after a day', async () => {
    const asset = assetIdOf(pdf('e'));
    await send(asset, 0, partOf(pdf('e'), 0));
    const twoDaysAgo = new Date(Date.now() - 48 * 3600 * 1000).toISOString();
    await school.server.db('uploads').update({ came_at: twoDaysAgo });
    await send(assetIdOf(pdf('f')), 0, partOf(pdf('f'), 0));
    expect(await arrived(asset)).toEqual({ parts: [], isHad: false });
  });
});
