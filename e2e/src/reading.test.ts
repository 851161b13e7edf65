import type { KeptPens } from '@kite-trail/core/contract/pens';
import { textPaths } from '@kite-trail/demo/pen/letters';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { piecesOn } from './support/lessons';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await classroom.makeLesson('Tidal heights');
});
afterAll(() => classroom?.close());

/** Writes with a pen, on a page of 960 × 540 points. */
async function write(text: string, xPt: number, yPt: number): Promise<void> {
  for (const path of textPaths(text, xPt, yPt, 40)) {
    const at = (i: number) => [path[i].x / 960, path[i].y / 540] as const;
    await teacher.pen('mousePressed', ...at(0), 0.5);
    for (let i = 1; i < path.length; i++) await teacher.pen('mouseMoved', ...at(i), 0.5);
    await teacher.pen('mouseReleased', ...at(path.length - 1), 0);
  }
}

const texts = async () =>
  (await piecesOn(teacher)).map((piece) => (piece.kind === 'text' ? piece.content.text : piece.kind));

describe('writing that is held', () => {
  it('is read, put right by a touch, and replaced by text in one step; what was put right is remembered', async () => {
    await write('HW 4.2', 120, 150);
    await write('LW 1.7', 120, 230);
    await teacher.press('Take hold');
    await teacher.press('Hold all');
    await teacher.press('Read the writing');
    await teacher.find('textbox', 'What was read');
    expect(await teacher.valueOf('textbox', 'What was read')).toBe('HW 4.2\nLW 1.7');
    // Nothing is replaced yet.
    await expect.poll(async () => new Set(await texts())).toEqual(new Set(['stroke']));
    await teacher.press('Read as 7');
    const other = await teacher.find('textbox', 'Another letter');
    await other.type('9');
    await expect.poll(() => teacher.valueOf('textbox', 'What was read')).toBe('HW 4.2\nLW 1.9');
    await teacher.press('Replace the writing');
    await expect.poll(texts).toEqual(['HW 4.2\nLW 1.9']);
    const kept = () => teacher.request<KeptPens>('GET', '/pens');
    await expect.poll(async () => (await kept()).letters.map(({ letter }) => letter)).toEqual(['9']);
    await teacher.press('Undo');
    await expect.poll(async () => new Set(await texts())).toEqual(new Set(['stroke']));
    await teacher.press('Redo');
    await expect.poll(texts).toEqual(['HW 4.2\nLW 1.9']);
    await teacher.press('Remove');
    await expect.poll(texts).toEqual([]);
  });

  it('is read the teacher’s way from then on', async () => {
    await teacher.press('Night pen');
    await write('17', 120, 150);
    await teacher.press('Take hold');
    await teacher.press('Hold all');
    await teacher.press('Read the writing');
    await teacher.find('textbox', 'What was read');
    await teacher.find('button', 'Read as 9');
    await teacher.press('Forget the 1 remembered');
    await teacher.page.keyboard.press('Escape');
    await teacher.isGone('button', 'Replace the writing');
    await teacher.press('Remove');
  });

  it('becomes exact figures, but for those that are to stay as drawn', async () => {
    await teacher.press('Night pen');
    const wavy = (v: number) =>
      Array.from({ length: 21 }, (_, i) => [0.2 + i * 0.02, v + 0.004 * Math.sin(i)] as [number, number]);
    await teacher.drawLine(wavy(0.3));
    await teacher.drawLine(wavy(0.6));
    await teacher.press('Take hold');
    await teacher.press('Hold all');
    await teacher.press('Read the writing');
    await teacher.press('Exact figures', 'radio');
    const boxes = await teacher.page.$$('[aria-label="Figures found"] [role=checkbox]');
    expect(boxes).toHaveLength(2);
    await boxes[1].click();
    await teacher.press('Replace the writing');
    const heights = async () =>
      (await piecesOn(teacher)).map((piece) => {
        if (piece.kind !== 'stroke') return NaN;
        return Math.max(...piece.points.yPt) - Math.min(...piece.points.yPt) < 1.5 ? 'exact' : 'as drawn';
      });
    await expect.poll(heights).toEqual(['exact', 'as drawn']);
  });
});
