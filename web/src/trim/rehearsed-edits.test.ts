import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { PageId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { beforeEach, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { api } from '../server/api';
import { useLesson } from '../lesson/lesson';
import { editionOf, madeLesson, madeTake } from '../testing/made-lesson';
import { useRehearsedEdits } from './rehearsed-edits';

const TAKE = 'take-of-knots' as TakeId;
const PAGE = 'page-one-of-us' as PageId;
const points = InkPoints.from([
  { xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 },
  { xPt: 90, yPt: 40, pressure: 0.5, sinceMs: 500 },
]);
const pen = { kind: 'pen', color: '#1f2a44', widthPt: 2 } as const;
const stroke = newStroke({ id: 'bend' as PieceId, z: 1, pen, points });

/** What waits for an idle moment, how many canvases were made, and which colours they were filled with. */
let waiting: (() => void)[];
let canvases: number;
let filled: string[];

beforeEach(async () => {
  [waiting, canvases, filled] = [[], 0, []];
  vi.stubGlobal('requestIdleCallback', (callback: () => void) => waiting.push(callback));
  vi.stubGlobal(
    'Path2D',
    class {
      moveTo() {}
      lineTo() {}
    },
  );
  vi.stubGlobal('document', { createElement: () => ({ getContext: fakeSurface, made: canvases++ }) });
  vi.spyOn(api, 'takeMarks').mockResolvedValue(encodeMarks([{ kind: 'ink', page: PAGE, atSamples: 48_000, stroke }]));
  const edition = editionOf([{ kind: 'play', take: TAKE, fromSamples: 0, toSamples: 480_000, pace: 1 }]);
  await useLesson().accept(madeLesson([PAGE], { takes: [madeTake(TAKE)], edition }));
});

/** Does nothing that it is asked to, but notes what is filled. */
function fakeSurface() {
  const surface = {
    fillStyle: '',
    fill: () => filled.push(surface.fillStyle),
    fillRect: () => filled.push(surface.fillStyle),
    measureText: () => ({ width: 10 }),
  };
  return new Proxy(surface, { get: (it, name) => Reflect.get(it, name) ?? (() => {}) });
}

/** So many idle moments, or as many as are asked for. @returns how many there were */
async function idleMoments(most = Infinity): Promise<number> {
  let n = 0;
  for (; n < most && waiting.length > 0; n++) {
    waiting.shift()!();
    await new Promise((resolve) => setTimeout(resolve));
  }
  return n;
}

it('draws edits off screen a few times per window, and changes nothing', async () => {
  const lesson = useLesson();
  const { edition, timeline } = lesson;
  const visit = effectScope();
  visit.run(useRehearsedEdits);
  await idleMoments(4);
  expect(filled).toContain(pen.color);
  // Whoever leaves the trail is left alone; whoever comes back goes on, to an end.
  visit.stop();
  expect(await idleMoments()).toBeLessThanOrEqual(2);
  const again = effectScope();
  again.run(useRehearsedEdits);
  expect(await idleMoments()).toBeGreaterThan(10);
  const made = canvases;
  again.run(useRehearsedEdits);
  expect([await idleMoments(), canvases]).toEqual([0, made]);
  expect([lesson.edition, lesson.timeline, lesson.isEditing]).toEqual([edition, timeline, false]);
  expect(lesson.timeline).toBe(timeline);
  again.stop();
});
