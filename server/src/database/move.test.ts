import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Watch } from '@kite-trail/core/contract/watch';
import { describe, expect, it } from 'vitest';
import {
  addFile,
  assetIdOf,
  isOnPostgres,
  json,
  newPostgresDatabase,
  part,
  PASSWORD,
  startTestServer,
  type Caller,
} from '../testing';
import { CannotMove, moveSchool, TABLES } from './move';
import { openDatabase } from './open';

const newFile = () => join(mkdtempSync(join(tmpdir(), 'kite-trail-')), 'school.sqlite');

describe('the tables that are moved', () => {
  it('are all there are', async () => {
    const db = await openDatabase(newFile());
    const rows = await db<{ name: string; type: string }>('sqlite_master').where({ type: 'table' }).select('name');
    const ours = rows.map(({ name }) => name).filter((name) => !/^(sqlite|knex)_/.test(name));
    expect(ours.sort()).toEqual(Object.keys(TABLES).sort());
    await db.destroy();
  });
});

describe.runIf(isOnPostgres)('a school that moves to PostgreSQL', () => {
  /** All that somebody gets to see of a school. */
  async function seen(call: Caller, id: string, asset: string) {
    const lesson = await json<LessonDocument>(call('GET', `/lessons/${id}`));
    const watched = `/watch/${lesson.link!.token}`;
    const { publication } = await json<Watch>(call('GET', watched));
    const bytes = async (path: string) => Buffer.from(await (await call('GET', path)).arrayBuffer()).toString('base64');
    return {
      lesson,
      lessons: await json<object[]>(call('GET', '/lessons')),
      templates: await json<object[]>(call('GET', '/templates')),
      file: await bytes(`/lessons/${id}/assets/${asset}`),
      sound: await bytes(`/takes/${lesson.takes[0].id}/sound`),
      payload: await bytes(`${watched}/publications/${publication}/payload`),
    };
  }

  it('is the same there, goes on, and is moved once', async () => {
    const [file, url] = [newFile(), await newPostgresDatabase()];
    const before = await startTestServer({ address: file });
    const call = await before.signedIn('mate@example.org');
    const { id, pages } = await json<LessonDocument>(call('POST', '/lessons', { title: 'Leaving harbour' }));
    const bytes = Buffer.alloc(700_000, 'chart');
    bytes.write('%PDF-1.7');
    await addFile(call, id as never, bytes);
    await call('POST', `/lessons/${id}/templates`, { name: 'Squared', ...pages[0] });
    await call('POST', `/lessons/${id}/takes`, { id: 'take-of-leaving', hasSound: true });
    await call('PUT', '/takes/take-of-leaving/parts/0', part(96_000));
    await call('POST', '/takes/take-of-leaving/end', { parts: 1 });
    await call('POST', `/lessons/${id}/publications/1`);
    const school = await seen(call, id, assetIdOf(bytes));
    await before.close();

    const [from, to] = [await openDatabase(file), await openDatabase(url)];
    const moved = await moveSchool(from, to);
    expect(moved.get('asset_chunks')).toBeGreaterThan(3);
    await expect(moveSchool(from, to)).rejects.toThrow(CannotMove);
    await Promise.all([from.destroy(), to.destroy()]);

    const after = await startTestServer({ address: url });
    const again = after.caller();
    await again('POST', '/session', { email: 'mate@example.org', password: PASSWORD });
    expect(await seen(again, id, assetIdOf(bytes))).toEqual(school);
    expect((await again('POST', '/lessons', { title: 'Arriving' })).status).toBe(200);
    await after.close();
  });

  it('is not moved at all where something did not arrive as it was', async () => {
    const [from, to] = [await openDatabase(newFile()), await openDatabase(await newPostgresDatabase())];
    const [one, other] = [
      { id: 'teacher-one', name: 'Ada' },
      { id: 'teacher-two', name: 'Bea' },
    ];
    for (const teacher of [one, other]) {
      await from('teachers').insert({
        ...teacher,
        email: `${teacher.id}@example.org`,
        password_hash: '',
        created_at: '',
      });
    }
    await to.raw(`CREATE FUNCTION shouted() RETURNS trigger AS
      $$ BEGIN NEW.name := replace(NEW.name, 'Bea', 'BEA'); RETURN NEW; END $$ LANGUAGE plpgsql`);
    await to.raw('CREATE TRIGGER shouting BEFORE INSERT ON teachers FOR EACH ROW EXECUTE FUNCTION shouted()');
    await expect(moveSchool(from, to)).rejects.toThrow(/“teachers” did not arrive/);
    expect(await to('teachers')).toEqual([]);
    await Promise.all([from.destroy(), to.destroy()]);
  });
});
