import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { placesOf } from '@kite-trail/core/lesson/touch';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openLesson, piecesOn, takeMarks } from './support/lessons';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await classroom.makeLesson('Pilotage');
});
afterAll(() => classroom?.close());

const pieces = () => piecesOn(teacher);
const strokes = async () => (await pieces()).filter((piece): piece is Stroke => piece.kind === 'stroke');
const kinds = async () => (await pieces()).map(({ kind }) => kind);
/** Drags the handle in the middle of the right side, until what is held has a share of its width. */
async function dragSide(held: string, share: number): Promise<void> {
  const box = (await (await teacher.find('group', held)).boundingBox())!;
  const { mouse } = teacher.page;
  await mouse.move(box.x + box.width, box.y + box.height / 2);
  await mouse.down();
  await mouse.move(box.x + box.width * share, box.y + box.height / 2, { steps: 5 });
  await mouse.up();
}
const touch = (u: number, v: number) => teacher.drag([u, v], [u, v]);

describe('a pen that is held still', () => {
  /** How far a stroke is from the straight line between its ends, in points. */
  const bend = ({ points: { xPt, yPt, count } }: Stroke) => {
    const [dx, dy] = [xPt[count - 1] - xPt[0], yPt[count - 1] - yPt[0]];
    const off = Array.from(xPt, (x, i) => Math.abs((x - xPt[0]) * dy - (yPt[i] - yPt[0]) * dx));
    return Math.max(...off) / Math.hypot(dx, dy);
  };

  it('makes a line exact; undone once it is as drawn, twice it is gone', async () => {
    const way = Array.from({ length: 21 }, (_, i) => [0.2 + i * 0.02, 0.3 + i * 0.01 + 0.008 * Math.sin(i)] as const);
    await teacher.pen('mousePressed', ...way[0], 0.5);
    for (const place of way.slice(1)) await teacher.pen('mouseMoved', ...place, 0.5);
    // The pen rests where it is; what it drew becomes exact while it is still down.
    const wet = () => teacher.page.evaluate(() => document.querySelector<HTMLCanvasElement>('canvas.wet')!.toDataURL());
    const drawn = await wet();
    await expect.poll(wet).not.toBe(drawn);
    await teacher.pen('mouseReleased', ...way.at(-1)!, 0);
    await expect.poll(async () => (await strokes()).map((one) => bend(one) < 0.1)).toEqual([true]);
    await teacher.press('Undo');
    await expect.poll(async () => (await strokes()).map((one) => bend(one) > 1)).toEqual([true]);
    await teacher.press('Undo');
    await expect.poll(kinds).toEqual([]);
  });
});

describe('taking hold', () => {
  it('takes what a loop is drawn around, groups it, and moves it in one step', async () => {
    await teacher.stroke([0.2, 0.2], [0.3, 0.2]);
    await teacher.stroke([0.2, 0.3], [0.3, 0.3]);
    await teacher.stroke([0.7, 0.8], [0.8, 0.8]);
    await expect.poll(kinds).toHaveLength(3);
    const before = await strokes();
    await teacher.press('Take hold');
    await teacher.drawLine([
      [0.15, 0.15],
      [0.35, 0.15],
      [0.35, 0.35],
      [0.15, 0.35],
      [0.15, 0.16],
    ]);
    await teacher.find('group', '2 things, held');
    await teacher.press('Arrange');
    await teacher.press('Group');
    await expect.poll(async () => new Set((await strokes()).map(({ group }) => group)).size).toBe(2);
    await touch(0.5, 0.6);
    await teacher.isGone('group', '2 things, held');
    await teacher.drag([0.25, 0.2], [0.45, 0.4]);
    const byOf = (now: Stroke[], n: number) => placesOf(now[n])[0].xPt - placesOf(before[n])[0].xPt;
    // Both of the group by a fifth of the page, into line with what is near within six pixels; the third not at all. Of a slow drag, a
    // part may be saved first.
    await expect.poll(async () => Math.abs(byOf(await strokes(), 0) - 0.2 * 960)).toBeLessThan(7);
    const moved = await strokes();
    const by = [0, 1, 2].map((n) => byOf(moved, n));
    expect(by[1]).toBeCloseTo(by[0], 3);
    expect(by[2]).toBe(0);
    expect(moved.map(({ points }) => points.xPt)).toEqual(before.map(({ points }) => points.xPt));
    await teacher.press('Undo');
    await expect.poll(async () => (await strokes()).every(({ matrix }) => matrix === null)).toBe(true);
  });

  it('hands out copies of what is set to', async () => {
    await touch(0.75, 0.8);
    await teacher.find('group', 'Ink, held');
    await teacher.press('More');
    await teacher.press('Hands out copies');
    await touch(0.5, 0.55);
    await teacher.drag([0.75, 0.8], [0.75, 0.5]);
    await expect.poll(kinds).toHaveLength(4);
    const [, , stays, copy] = await strokes();
    expect([stays.handsOut, stays.matrix]).toEqual([true, null]);
    expect(copy.handsOut).toBe(false);
    await teacher.press('Undo');
    await expect.poll(kinds).toHaveLength(3);
  });

  it('copies from one lesson into another', async () => {
    await teacher.press('Hold all');
    await teacher.find('group', '3 things, held');
    await teacher.press('Copy');
    const ids = new Set((await pieces()).map(({ id }) => id));
    await classroom.makeLesson('Pilotage, second part');
    await teacher.press('Take hold');
    await teacher.press('Paste');
    await expect.poll(kinds).toEqual(['stroke', 'stroke', 'stroke']);
    const copies = await strokes();
    expect(copies.some(({ id }) => ids.has(id))).toBe(false);
    expect(new Set(copies.map(({ group }) => group)).size).toBe(2);
    await teacher.press('Remove');
    await expect.poll(kinds).toEqual([]);
  });
});

describe('what is put on a page', () => {
  it('is text, typed where the page is touched, in any of the fonts', async () => {
    await teacher.press('Text and shapes');
    await teacher.press('Text');
    await touch(0.1, 0.1);
    await teacher.find('textbox', 'Text on the page');
    // All at once, and at once after the page was opened: the first that is asked of whoever sets type must not be lost.
    await teacher.page.keyboard.sendCharacter('Springs 4.2 m');
    await teacher.choose('Font', 'dyslexia');
    await teacher.page.keyboard.press('Escape');
    await expect
      .poll(async () =>
        (await pieces()).map((one) => one.kind === 'text' && [one.content.text, one.content.style.font]),
      )
      .toEqual([['Springs 4.2 m', 'dyslexia']]);
    const [text] = await pieces();
    // Without its spaces: one outline for each letter.
    expect(text.kind === 'text' && text.drawing.letters).toHaveLength(11);
    // Its side is dragged: its lines break, and its letters stay as large as they are.
    const whole = text.kind === 'text' && text.frame.widthPt;
    await dragSide('Text, held', 0.7);
    const lines = async () => {
      const [piece] = await pieces();
      if (piece.kind !== 'text') throw new Error('no text');
      const { frame, drawing } = piece;
      return [new Set(drawing.letters.map(({ yPt }) => yPt)).size, frame.heightPt / drawing.heightPt];
    };
    await expect.poll(lines).toEqual([2, 1]);
    const [broken] = await pieces();
    expect(broken.kind === 'text' && broken.content.wrapPt! / Number(whole)).toBeCloseTo(0.7, 1);
    await teacher.press('Undo');
    await expect.poll(lines).toEqual([1, 1]);
    await teacher.press('Remove');
  });

  it('is text of other scripts, with emoji, none of which shows as a box', async () => {
    const fetched: string[] = [];
    teacher.page.on('response', (answer) => fetched.push(answer.url()));
    await teacher.press('Text and shapes');
    await teacher.press('Text');
    await touch(0.1, 0.1);
    await teacher.find('textbox', 'Text on the page');
    await teacher.page.keyboard.sendCharacter('שלום');
    await expect.poll(() => fetched.some((url) => url.includes('hebrew'))).toBe(true);
    expect(fetched.some((url) => url.includes('emoji'))).toBe(false);
    await teacher.page.keyboard.sendCharacter(' ⛵ 12');
    await teacher.page.keyboard.press('Escape');
    const letters = async () => {
      const [text] = await pieces();
      return text?.kind === 'text' ? text.drawing.letters : [];
    };
    // Four letters, a boat, two digits: each drawn, the first letter the farthest right.
    await expect.poll(async () => (await letters()).length).toBe(7);
    expect(await teacher.page.evaluate(() => document.body.innerText)).not.toContain('No font here has');
    await teacher.press('Remove');
  });

  it('is a shape with text in it', async () => {
    await teacher.press('Text and shapes');
    await teacher.press('Ellipse');
    await teacher.drawLine([
      [0.1, 0.1],
      [0.4, 0.4],
    ]);
    await teacher.find('group', 'Shape, held');
    await teacher.press('Change');
    await teacher.find('textbox', 'Text on the page');
    await teacher.page.keyboard.type('Shoal');
    await teacher.page.keyboard.press('Escape');
    await expect
      .poll(async () => (await pieces()).map((one) => one.kind === 'shape' && one.content.label?.text))
      .toEqual(['Shoal']);
    const frame = async () => {
      const [piece] = await pieces();
      if (piece.kind !== 'shape') throw new Error('no shape');
      return piece.frame;
    };
    const was = await frame();
    expect(was.widthPt).toBeCloseTo(0.3 * 960, 0);
    // It stretches as far as its handle is dragged, and its other side stays.
    await dragSide('Shape, held', 1.5);
    await expect.poll(async () => (await frame()).widthPt / was.widthPt).toBeCloseTo(1.5, 2);
    const stretched = await frame();
    expect(stretched.heightPt).toBeCloseTo(was.heightPt, 1);
    expect(stretched.xPt - stretched.widthPt / 2).toBeCloseTo(was.xPt - was.widthPt / 2, 0);
    await teacher.press('Undo');
    await expect.poll(frame).toEqual(was);
  });

  it('is a formula, which says what it does not understand, and curves', async () => {
    await teacher.press('Channel blue pen');
    await teacher.press('Text and shapes');
    await teacher.press('Formula');
    const field = await teacher.find('textbox', 'Formula in LaTeX');
    await field.type('v = \\frac{s}{t');
    await teacher.sees('Missing close brace');
    await field.type('}');
    await teacher.press('Put it on the page');
    await teacher.find('group', 'Formula, held');
    await teacher.press('Channel blue pen');
    await teacher.press('Text and shapes');
    await teacher.press('Curves');
    await teacher.fill('Curve 1', 'y = 2 sin(x)');
    await teacher.press('Put it on the page');
    await teacher.find('group', 'Curves, held');
    await expect.poll(kinds).toEqual(['shape', 'formula', 'plot']);
    const [, formula, plot] = await pieces();
    expect(formula.kind === 'formula' && [formula.content.tex, formula.drawing.letters.length]).toEqual([
      'v = \\frac{s}{t}',
      4,
    ]);
    expect(plot.kind === 'plot' && plot.content.curves.map(({ expression }) => expression)).toEqual(['y = 2 sin(x)']);
  });
});

describe('a recording', () => {
  it('keeps typing letter by letter, pointing, and how the page is looked at', async () => {
    await teacher.press('Channel blue pen');
    await teacher.press('Text and shapes');
    await teacher.press('is recorded, letter by letter', 'radio');
    await teacher.choose('Voice from', 'none');
    await teacher.press('Record this lesson');
    await teacher.sees('Recording');
    await teacher.press('Text and shapes');
    await teacher.press('Text');
    await touch(0.1, 0.7);
    await teacher.find('textbox', 'Text on the page');
    for (const letter of 'Ebb') {
      const length = (await teacher.valueOf('textbox', 'Text on the page')).length;
      await teacher.page.keyboard.type(letter);
      await expect.poll(async () => (await teacher.valueOf('textbox', 'Text on the page')).length).toBe(length + 1);
    }
    await teacher.page.keyboard.press('Escape');
    await teacher.find('group', 'Text, held');
    await teacher.press('Pointer');
    await teacher.stroke([0.5, 0.3], [0.7, 0.3]);
    await teacher.press('Larger');
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    await expect.poll(async () => (await openLesson(teacher)).takes[0]?.ended).toBe(true);
    const marks = decodeMarks(await takeMarks(teacher));
    const texts = marks.flatMap((mark) =>
      mark.kind === 'place' || mark.kind === 'alter'
        ? mark.pieces.flatMap((one) => (one.kind === 'text' ? [{ id: one.id, text: one.content.text }] : []))
        : [],
    );
    // One piece, from its first letter to its last; letters typed faster than they are set may come together.
    expect(new Set(texts.map(({ id }) => id)).size).toBe(1);
    expect(texts.at(-1)?.text).toBe('Ebb');
    expect(texts.length).toBeGreaterThan(1);
    expect(texts.every(({ text }) => 'Ebb'.startsWith(text))).toBe(true);
    const point = marks.find((mark) => mark.kind === 'point')!;
    expect(point.kind === 'point' && point.pointing.pointer).toBe('dot');
    expect(point.kind === 'point' && point.pointing.points.xPt.at(-1)).toBeCloseTo(0.7 * 960, 0);
    const look = marks.findLast((mark) => mark.kind === 'look')!;
    const rect = look.kind === 'look' ? look.rect! : null;
    expect(rect!.right - rect!.left).toBeCloseTo(960 / 1.25, 0);
  });

  it('leads viewers where a link says, and shows them what was looked at until they look elsewhere', async () => {
    await teacher.press('Prepare');
    await teacher.press('Take hold');
    await teacher.press('All of the page');
    await touch(0.25, 0.1);
    await teacher.find('group', 'Shape, held');
    await teacher.press('Link');
    await teacher.fill('To a web address', 'tides.harbour.example');
    await teacher.press('Set');
    await teacher.sees('https://tides.harbour.example');
    await teacher.sees('Saved');
    await teacher.choose('Voice from', 'none');
    await teacher.press('Record this lesson');
    await teacher.sees('Recording');
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    await expect.poll(async () => (await openLesson(teacher)).takes.map(({ ended }) => ended)).toEqual([true, true]);
    await teacher.press('Share');
    await teacher.press('Make a watch link');
    const student = await Person.at(classroom.browser, await teacher.valueOf('textbox', 'Watch link'));
    const slider = await student.find('slider', 'Where to play');
    await slider.focus();
    await student.page.keyboard.press('End');
    const link = await student.find('link', 'https://tides.harbour.example');
    expect(await link.evaluate((one) => (one as HTMLAnchorElement).rel)).toContain('noopener');
    const width = async () => (await link.boundingBox())!.width;
    const before = await width();
    const { x, y } = (await (await student.find('image', 'Page 1 of 1')).boundingBox())!;
    await student.page.mouse.move(x + 40, y + 40);
    await student.page.mouse.wheel({ deltaY: -200 });
    await expect.poll(async () => (await width()) > before * 1.5).toBe(true);
    await student.press('Follow again');
    await expect.poll(width).toBeCloseTo(before, 0);
  });
});
