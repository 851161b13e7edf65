import type { Found } from '@kite-trail/core/contract/search';
import { NOTHING_SAID, type LessonDocument } from '@kite-trail/core/contract/lesson';
import type { CaptionId, LessonId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { NEW, type TextPiece } from '@kite-trail/core/lesson/piece';
import { beforeAll, describe, expect, it } from 'vitest';
import { changesBody, json, messageOf, part, testSchool } from '../testing';

const { school, call } = testSchool();
const SECOND = 48_000;

const find = (asked: string) => json<Found>(call('GET', `/search?for=${encodeURIComponent(asked)}`));
const titles = async (asked: string) => (await find(asked)).lessons.map(({ id }) => names.get(id));
const names = new Map<LessonId, string>();
async function make(title: string): Promise<LessonDocument> {
  const lesson = await json<LessonDocument>(call('POST', '/lessons', { title }));
  names.set(lesson.id, title);
  return lesson;
}

const typed = (id: string, text: string): TextPiece => ({
  ...NEW,
  kind: 'text',
  id: id as PieceId,
  z: 1,
  frame: { xPt: 100, yPt: 100, widthPt: 80, heightPt: 20, turnRad: 0, mirrored: false },
  content: { text, style: { font: 'clear', sizePt: 20, bold: false, color: '#000000', align: 'left' }, wrapPt: null },
  drawing: { widthPt: 80, heightPt: 20, letters: [], lines: [] },
});

let tides: LessonDocument;
beforeAll(async () => {
  tides = await make('Tides on the bar');
  const page = tides.pages[0].page.id;
  const prepared = { kind: 'place', page, pieces: [typed('prepared', 'Höhe der Gezeit')] } as const;
  await call('POST', `/lessons/${tides.id}/changes`, changesBody(tides, [prepared]));
  const marks: Mark[] = [{ kind: 'place', page, pieces: [typed('later', 'neap')], atSamples: 3 * SECOND }];
  await call('POST', `/lessons/${tides.id}/takes`, { id: 'take-tides', hasSound: true });
  await call('PUT', '/takes/take-tides/parts/0', part(10 * SECOND, { marks }));
  const { edition, edit } = await json<LessonDocument>(call('POST', '/takes/take-tides/end', { parts: 1 }));
  const spans = [{ take: 'take-tides', fromSamples: 5 * SECOND, toSamples: 6 * SECOND }];
  const captions = [{ id: 'caption-1' as CaptionId, text: 'Now the ebb sets in, 100% of it!', spans }];
  await call('PUT', `/lessons/${tides.id}/edition`, { from: edit, edition: { ...edition, captions } });
  const charts = await make('Charts');
  const said = { ...NOTHING_SAID, description: 'Where the tide is told', tags: ['harbour'], subject: 'Navigation' };
  await call('PUT', `/lessons/${charts.id}/about`, said);
  await make('שלום: קשרים');
});

describe('looking for something', () => {
  it('finds it where it stands: in names, what is said about it, captions and what was typed', async () => {
    expect((await titles('tide')).sort()).toEqual(['Charts', 'Tides on the bar']);
    expect(await titles('HARBOUR')).toEqual(['Charts']);
    expect(await titles('navig')).toEqual(['Charts']);
    expect(await titles('קשרים')).toEqual(['שלום: קשרים']);
    expect(await titles('whale')).toEqual([]);
    expect(await titles('tide whale')).toEqual([]);
  });

  it('tells the moment, and the page', async () => {
    const placesOf = async (asked: string) => (await find(asked)).lessons[0].places;
    expect(await placesOf('ebb')).toEqual([
      { kind: 'caption', text: 'Now the ebb sets in, 100% of it!', atSamples: 5 * SECOND, page: null },
    ]);
    expect(await placesOf('neap')).toEqual([{ kind: 'text', text: 'neap', atSamples: 3 * SECOND, page: 1 }]);
    expect(await placesOf('hohe gezeit')).toEqual([{ kind: 'text', text: 'Höhe der Gezeit', atSamples: 0, page: 1 }]);
  });

  it('takes words as letters, not as signs of its own, and refuses what is no search', async () => {
    expect(await titles('100%')).toEqual(['Tides on the bar']);
    expect(await titles('e%b')).toEqual([]);
    expect(await titles('e_b')).toEqual([]);
    expect(await titles('!')).toEqual(['Tides on the bar']);
    expect(await find(' \n ')).toEqual({ lessons: [], unread: 0 });
    const refused = await call('GET', `/search?for=${'x'.repeat(201)}`);
    expect([refused.status, await messageOf(refused)]).toEqual([400, 'Look for at most 200 letters.']);
    expect((await call('GET', '/search?for=a&for=b')).status).toBe(400);
  });

  it('finds what has just been changed, nothing that has gone, and nothing of anybody else', async () => {
    await call('PUT', `/lessons/${tides.id}/name`, { title: 'Springs' });
    expect(await titles('springs')).toEqual(['Tides on the bar']);
    expect((await titles('bar')).length).toBe(0);
    await call('POST', '/binning', { lessons: [tides.id], isBinned: true });
    expect(await titles('springs')).toEqual([]);
    await call('POST', '/binning', { lessons: [tides.id], isBinned: false });
    expect(await titles('springs')).toEqual(['Tides on the bar']);
    const other = await school.server.signedIn('other@example.org');
    expect(await json<Found>(other('GET', '/search?for=springs'))).toEqual({ lessons: [], unread: 0 });
  });

  it('goes on where one lesson is damaged, which is found by its name', async () => {
    const { id } = await make('Broken compass');
    await school.server
      .db('lessons')
      .where({ id })
      .update({ between_marks: Buffer.from('no marks') });
    expect(await titles('broken')).toEqual(['Broken compass']);
    expect((await find('springs')).lessons).toHaveLength(1);
  });

  it('reads many lessons some at a time, and says how many are left', async () => {
    for (let n = 0; n < 25; n++) await make(`Buoy ${n}`);
    const first = await find('buoy');
    expect([first.lessons.length, first.unread]).toEqual([20, 5]);
    const then = await find('buoy');
    expect([then.lessons.length, then.unread]).toEqual([25, 0]);
  });
});
