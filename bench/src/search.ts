import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { NOTHING_SAID } from '@kite-trail/core/contract/lesson';
import { writeForm } from '@kite-trail/core/contract/forms';
import { folded } from '@kite-trail/core/search/fold';
import { School } from '@kite-trail/e2e/support/school';
import { addTeacher } from '@kite-trail/server/accounts/accounts';
import { openDatabase } from '@kite-trail/server/database/open';
import { makeLesson } from '@kite-trail/server/lessons/lessons';
import type { Knex } from 'knex';
import { Client } from './client';
import { p95, rounded } from './figures';

const LESSONS = 1000;
/** Captions and written texts of a lesson of ten minutes. */
const TEXTS = 150;
const WORDS =
  'tide buoy compass chart splice anchor fairlead bowline luff reach harbour pilot ebb flood keel rudder'.split(' ');
const ASKED = ['tide', 'comp', 'bowline reach', 'harbour pilot ebb', 'zephyr', 'lesson 77'];
const TIMES = 5;
const TEACHER = { name: 'Runa Holm', email: 'runa@bench.example', password: 'mooring-lines-77' };

/** Looks for words in a thousand lessons, and lists them all, as a teacher's Home does. */
export async function benchSearch(): Promise<Record<string, number>> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-search-'));
  const file = join(folder, 'kite-trail.sqlite');
  const db = await openDatabase(file);
  await fill(db);
  await db.destroy();
  const school = await School.start('demo', { DEMO_DATABASE: file });
  const [teacher, other] = [new Client(school.url), new Client(school.url)];
  for (const one of [teacher, other]) await one.text('POST', '/session', TEACHER);
  teacher.tookMs.length = other.tookMs.length = 0;
  for (let n = 0; n < TIMES; n++) {
    for (const words of ASKED) await teacher.text('GET', `/search?for=${encodeURIComponent(words)}`);
  }
  const searchMs = p95(teacher.tookMs);
  teacher.tookMs.length = 0;
  let isListing = true;
  const waiting = (async () => {
    while (isListing) await other.text('GET', '/session');
  })();
  for (let n = 0; n < TIMES; n++) await teacher.text('GET', '/lessons');
  isListing = false;
  await waiting;
  await school.close();
  rmSync(folder, { recursive: true });
  return {
    search_1000_lessons_ms: rounded(searchMs, 1),
    list_1000_lessons_ms: rounded(p95(teacher.tookMs), 1),
    list_1000_lessons_others_wait_ms: rounded(Math.max(...other.tookMs), 1),
  };
}

async function fill(db: Knex): Promise<void> {
  const teacher = await addTeacher(db, { ...TEACHER, isKeeper: true });
  const word = (n: number) => WORDS[(n * 7 + (n >> 3)) % WORDS.length];
  for (let n = 0; n < LESSONS; n++) {
    const { id, changed_at } = await makeLesson(db, teacher.id, `Lesson ${n}: ${word(n)} and ${word(n + 5)}`);
    const about = {
      ...NOTHING_SAID,
      description: `All about the ${word(n + 1)}. `.repeat(20),
      tags: [word(n), word(n + 2)],
    };
    await db('lessons')
      .where({ id })
      .update({ about: writeForm('about', about), read_at_change: changed_at });
    const rows = Array.from({ length: TEXTS }, (_, i) => {
      const text = `Now the ${word(n + i)} comes to the ${word(i * 3)} before the ${word(n * i)} turns.`;
      return { lesson_id: id, n: i, kind: 'caption', text, folded: folded(text), at_samples: i * 48_000, page: null };
    });
    await db.batchInsert('lesson_texts', rows, 100);
    const body = rows.map((row) => row.folded).join('\n');
    await db('lesson_words').insert({ lesson_id: id, head: folded(JSON.stringify(about)), body });
  }
}
