import { NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { replayOf, type Replay } from '@kite-trail/core/formats/inkml/replay';
import type { BroughtInk } from '@kite-trail/core/formats/inkml/strokes-of-ink';
import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import type { PageId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import type { Page } from '@kite-trail/core/lesson/page';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import { openingMarks } from '@kite-trail/core/trail/plan';
import { nanoid } from 'nanoid';
import { useOutbox } from '../app/outbox';
import { claimRecording } from '../capture/recording-claim';
import { useDesk } from '../lesson/desk';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';
import { takeFrom } from '../outbox/take-parts';

/** Ink that was brought, on the page it is for: one that is there, or a new one. */
export interface PlacedInk {
  page: PageId;
  isNew: Page | null;
  ink: BroughtInk;
}

/** So many marks are kept, and sent, at once. */
const MARKS_A_PART = 500;

/** How ink is written again where all of it tells when it was written; `null` where it does not. */
export function replayOfInk(placed: readonly PlacedInk[], shown: PageId): Replay | null {
  const timed = placed.flatMap(({ page, ink: { strokes, atMs } }) =>
    strokes.map((stroke, n) => ({ page, stroke, atMs: atMs[n] })),
  );
  const isTold = (one: (typeof timed)[number]): one is typeof one & { atMs: number } => one.atMs !== null;
  return timed.every(isTold) ? replayOf(timed, shown) : null;
}

/** Makes recordings without a voice of ink that tells when it was written. */
export const useInkTake = ofLesson(() => {
  const desk = useDesk();
  const lesson = useLesson();
  const editing = useEditing();
  const outbox = useOutbox();

  /** Lets a recording follow upon the last one. @throws Error with a message for the teacher, such as where another window records */
  async function record({ marks, lengthSamples }: Replay, placed: readonly PlacedInk[]): Promise<void> {
    const { id: of } = lesson.document!;
    const release = await claimRecording(of);
    try {
      await Promise.all([lesson.save(), editing.sent()]);
      const plan = { kind: 'carry-on' } as const;
      const shown = desk.scene!.shown;
      const opening = [...openingMarks(plan, lesson.between, shown), ...newPages(placed, shown)];
      const take = nanoid(16) as TakeId;
      const opened = await outbox.open();
      const { revision } = lesson;
      const begun = { take, hasSound: false, plan, revision, beganAtMs: Date.now() };
      // The school hears of it once all of it is kept here.
      const key = await opened.add(of, { kind: 'take', ...begun, payload: null }, { isHeld: true });
      for (const [n, payload] of partsOf([...opening, ...marks], lengthSamples).entries()) {
        await opened.add(of, { kind: 'part', take, n, payload });
      }
      opened.release(key);
      const parts = await opened.parts(take);
      if (!opened.isSetAside(take)) lesson.addTake(takeFrom(take, parts, true).take, plan, null);
      lesson.layDesk(NO_HISTORY);
      await opened.add(of, { kind: 'end', take, parts: parts.length, recover: false, plan, payload: null });
    } finally {
      release();
    }
  }

  return { record };
});

/** New pages come one after the other, behind the page shown. */
function newPages(placed: readonly PlacedInk[], shown: PageId): Mark[] {
  const pages = placed.flatMap(({ isNew }) => isNew ?? []);
  return pages.map((page, n) => ({ kind: 'add-page', page, after: n === 0 ? shown : pages[n - 1].id, atSamples: 0 }));
}

function partsOf(marks: readonly Mark[], lengthSamples: number): Uint8Array[] {
  return Array.from({ length: Math.ceil(marks.length / MARKS_A_PART) }, (_, n) => {
    const own = marks.slice(n * MARKS_A_PART, (n + 1) * MARKS_A_PART);
    const isLast = (n + 1) * MARKS_A_PART >= marks.length;
    const toSamples = isLast ? lengthSamples : own[own.length - 1].atSamples;
    const nothing = { unfinished: [], sound: new Uint8Array(), heard: NOTHING_HEARD };
    return encodeTakePart({ marks: own, toSamples, ...nothing });
  });
}
