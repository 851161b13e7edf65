import type { PieceId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { msToSamples } from '@kite-trail/core/trail/clock';
import { withInkEdit, type InkEdit } from '@kite-trail/core/trail/ink-edits';
import { placeSegments, programmeLength, toTake } from '@kite-trail/core/trail/programme';
import { firstAtOrAfter } from '@kite-trail/core/trail/trail';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { computed, ref, watch } from 'vue';
import { useEditing } from '../../lesson/edition/editing';
import { useLesson } from '../../lesson/lesson';
import { useStretch } from '../../trail/stretch';
import { ofLesson } from '../../lesson/lesson-scope';

type InkMark = Extract<Mark, { kind: 'ink' }>;

/** Always the same, so that nothing is painted anew when nothing was lit and nothing is. */
const NONE: readonly Stroke[] = [];

/** Strokes chosen on the page, to be edited in what was recorded. */
export const useInkChoice = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const stretch = useStretch();
  const ids = ref<ReadonlySet<PieceId>>(new Set());

  /** When every stroke is written in the trail; those that lie there from the start, at its beginning. */
  const written = computed(() => {
    const found = new Map<PieceId, InkMark>();
    const add = (mark: Mark) => {
      if (mark.kind === 'ink' && !found.has(mark.stroke.id)) found.set(mark.stroke.id, mark);
    };
    lesson.timeline?.trail.marks.forEach(add);
    const { inkEdits } = lesson.edition;
    const atStart = new Set(inkEdits.flatMap(({ stroke, at, isOut }) => (at === 'start' && !isOut ? [stroke] : [])));
    if (atStart.size === 0) return found;
    for (const { marks } of lesson.takes.values()) {
      for (const mark of marks) if (mark.kind === 'ink' && atStart.has(mark.stroke.id)) add({ ...mark, atSamples: 0 });
    }
    return found;
  });
  const chosen = computed<InkMark[]>(() => [...ids.value].flatMap((id) => written.value.get(id) ?? []));
  const color = computed(() => chosen.value[0]?.stroke.pen.color ?? '');

  // Strokes that are gone are chosen no longer.
  watch(
    () => lesson.timeline,
    () => {
      const left = [...ids.value].filter((id) => written.value.has(id));
      if (left.length < ids.value.size) ids.value = new Set(left);
    },
  );

  /** The strokes begun in the chosen stretch of the trail, or else those chosen on the page, as far as they are seen. */
  function litIn({ scene }: Moment): readonly Stroke[] {
    const lit = stretch.ends && ids.value.size === 0 ? inStretch.value : ids.value;
    if (lit.size === 0) return NONE;
    return shownPage(scene).pieces.filter((piece): piece is Stroke => piece.kind === 'stroke' && lit.has(piece.id));
  }

  const inStretch = computed<ReadonlySet<PieceId>>(() => {
    const { ends } = stretch;
    const marks = lesson.timeline?.trail.marks;
    if (!ends || !marks) return new Set();
    const inside = marks.slice(firstAtOrAfter(marks, ends.from), firstAtOrAfter(marks, ends.to));
    return new Set(inside.flatMap((mark) => (mark.kind === 'ink' ? [mark.stroke.id] : [])));
  });

  /**
   * Chooses a stroke, or gives it up where more are chosen beside it.
   * @returns when it is written; `null` where it was there before
   */
  function choose(id: PieceId, isBeside: boolean): number | null {
    const others = [...ids.value].filter((one) => one !== id);
    if (!isBeside) ids.value = new Set([id]);
    else ids.value = new Set(others.length < ids.value.size ? others : [...others, id]);
    return written.value.get(id)?.atSamples ?? null;
  }

  function chooseAll(strokes: readonly PieceId[]): void {
    ids.value = new Set(strokes.filter((id) => written.value.has(id)));
  }

  function clear(): void {
    ids.value = new Set();
  }

  function edit(make: (mark: InkMark) => InkEdit): void {
    const inkEdits = chosen.value.reduce((edits, mark) => withInkEdit(edits, make(mark)), lesson.edition.inkEdits);
    void editing.change({ inkEdits });
  }

  /** Some of them are not as they were recorded. */
  const isEdited = computed(() => lesson.edition.inkEdits.some(({ stroke }) => ids.value.has(stroke)));
  /** Puts them back to when and how they were written. */
  function restore(): void {
    void editing.change({ inkEdits: lesson.edition.inkEdits.filter(({ stroke }) => !ids.value.has(stroke)) });
  }

  const remove = () => edit(({ stroke }) => ({ stroke: stroke.id, isOut: true }));
  const fromStart = () => edit(({ stroke }) => ({ stroke: stroke.id, at: 'start' }));
  const recolour = (to: string) => edit(({ stroke }) => ({ stroke: stroke.id, color: to }));

  /** Lets the first of them begin at a moment, and the others as long after it as before. */
  function moveTo(atSamples: number): void {
    moveBy(atSamples - Math.min(...chosen.value.map((mark) => mark.atSamples)));
  }

  const moveByMs = (ms: number) => moveBy(msToSamples(ms));

  function moveBy(bySamples: number): void {
    const placed = placeSegments(lesson.programme);
    const last = programmeLength(lesson.programme) - 1;
    edit(({ stroke, atSamples }) => {
      const found = toTake(placed, Math.min(last, Math.max(0, Math.round(atSamples + bySamples))));
      if (!found) return { stroke: stroke.id };
      return { stroke: stroke.id, at: { take: found.placed.segment.take, atSamples: found.takeSamples } };
    });
  }

  return {
    ids,
    chosen,
    color,
    inStretch,
    litIn,
    choose,
    chooseAll,
    clear,
    isEdited,
    restore,
    remove,
    fromStart,
    recolour,
    moveTo,
    moveByMs,
  };
});
