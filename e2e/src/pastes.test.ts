import { MOST_LETTERS } from '@kite-trail/core/lesson/content';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { Piece } from '@kite-trail/core/lesson/piece';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openLesson, piecesOn, takeMarks } from './support/lessons';

/** 5,000 letters, a thousand more than a text holds: 625 words, each unlike all others. */
const LONG = Array.from({ length: 625 }, (_, n) => `knot${String(n).padStart(3, '0')} `).join('');

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
});
afterAll(() => classroom?.close());

/** Puts a text on the page, all of it at once, as pasting does. */
async function paste(text: string): Promise<void> {
  await teacher.press('Text and shapes');
  await teacher.press('Text');
  await teacher.drag([0.1, 0.1], [0.1, 0.1]);
  await teacher.find('textbox', 'Text on the page');
  await teacher.page.keyboard.sendCharacter(text);
  await teacher.sees(/More than 4,000 letters do not fit in here/);
  await teacher.page.keyboard.press('Escape');
}

async function drawWithPen(): Promise<void> {
  await teacher.press('Night pen');
  await teacher.stroke([0.6, 0.6], [0.8, 0.7]);
}

const textIn = (pieces: readonly Piece[]) =>
  pieces.map((one) => (one.kind === 'text' ? one.content.text : '')).join('');
const strokesIn = (pieces: readonly Piece[]) => pieces.filter(({ kind }) => kind === 'stroke').length;

describe('five thousand letters pasted at once', () => {
  it('are all kept while preparing, and so is what is drawn after them', async () => {
    await classroom.makeLesson('All the knots there are');
    await paste(LONG);
    await expect.poll(async () => textIn(await piecesOn(teacher)).length).toBe(LONG.length);
    await drawWithPen();
    await expect.poll(async () => strokesIn(await piecesOn(teacher))).toBe(1);
    await teacher.page.reload();
    await teacher.find('image', 'Page to write on');
    const pieces = await piecesOn(teacher);
    expect(textIn(pieces)).toBe(LONG);
    expect(pieces.every((one) => one.kind !== 'text' || one.content.text.length <= MOST_LETTERS)).toBe(true);
    expect(strokesIn(pieces)).toBe(1);
  });

  it('are all recorded, and the take reaches the school', async () => {
    await classroom.makeLesson('All the knots there are, spoken');
    await teacher.press('Record', 'button');
    await teacher.choose('Voice from', 'none');
    await teacher.press('Record this lesson');
    await teacher.sees('Recording');
    await paste(LONG);
    await drawWithPen();
    await teacher.press('Stop');
    await expect.poll(async () => (await openLesson(teacher)).takes[0]?.ended).toBe(true);
    const marks = decodeMarks(await takeMarks(teacher));
    expect(marks.filter(({ kind }) => kind === 'unread')).toEqual([]);
    expect(marks.filter(({ kind }) => kind === 'ink')).toHaveLength(1);
    const texts = new Map<string, string>();
    for (const mark of marks) {
      if (mark.kind !== 'place' && mark.kind !== 'alter') continue;
      for (const piece of mark.pieces) if (piece.kind === 'text') texts.set(piece.id, piece.content.text);
    }
    expect([...texts.values()].join('')).toBe(LONG);
  });
});
