import type { Mark } from '@kite-trail/core/lesson/mark';
import { placeCaptions } from '@kite-trail/core/trail/captions';
import { CLOCK_HZ, secondsToSamples } from '@kite-trail/core/trail/clock';
import {
  cut,
  dividedAt,
  moved,
  partAt,
  quickened,
  repeated,
  silenced,
  sounded,
  splicesIn,
  split,
  trim,
  withStill,
  type CutInk,
  type Stretch,
} from '@kite-trail/core/trail/edit';
import {
  programmeLength,
  voiceOf,
  type Programme,
  isSilenced,
  placeSegments,
  toTake,
} from '@kite-trail/core/trail/programme';
import type { TakeMoment } from '@kite-trail/core/trail/ink-edits';
import { placePrompts } from '@kite-trail/core/trail/prompts';
import { pausesIn } from '@kite-trail/core/trail/quiet';
import { computed, ref, shallowRef } from 'vue';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { useAudition } from '../trail/audition';
import { useListening } from '../trail/listening';
import { useStretch, type Ends } from '../trail/stretch';
import { usePlaced } from '../lesson/edition/placed';
import { useVoices } from '../lesson/voices';
import { ofLesson } from '../lesson/lesson-scope';

/** What one can go along the trail by. */
export const STEPS_BY = ['frame', 'stroke', 'pause', 'page', 'chapter'] as const;
export type StepBy = (typeof STEPS_BY)[number];

const FRAMES_PER_SECOND = 30;
/** A pause that is worth stopping at. */
const PAUSE_SAMPLES = secondsToSamples(0.8);

/** What can be done to the trail and to the stretch that is chosen on it. Every act says where to go on from. */
export const useTrimming = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const stretch = useStretch();
  const voices = useVoices();
  const placed = usePlaced();
  const audition = useAudition();
  const listening = useListening();

  /** The trail can be edited: there is one, and it is that which is heard. */
  const isOn = computed(() => lesson.lengthSamples > 0 && !audition.other);
  const stepBy = ref<StepBy>('stroke');
  const trimmed = shallowRef<{ of: Programme; ends: Ends } | null>(null);
  /** What is kept when both ends are trimmed; in another programme, all of it at first. */
  const kept = computed({
    get: (): Ends => {
      const { programme } = lesson;
      if (trimmed.value && trimmed.value.of === programme) return trimmed.value.ends;
      return { from: 0, to: lesson.lengthSamples };
    },
    set: (ends) => (trimmed.value = { of: lesson.programme, ends }),
  });

  const chosen = computed<Stretch | null>(() => {
    if (!stretch.ends) return null;
    return { fromSamples: Math.round(stretch.ends.from), toSamples: Math.round(stretch.ends.to) };
  });
  const splices = computed(() => splicesIn(lesson.programme));
  const cues = computed(() => placeCaptions(lesson.programme, lesson.edition.captions));
  const chapters = computed(() => {
    const { timeline, programme } = lesson;
    return timeline ? placed.chaptersOf(programme, timeline) : [];
  });
  const prompts = computed(() => placePrompts(lesson.programme, lesson.edition.prompts));
  /** Which moment of which take plays at a time of the trail. */
  function momentAt(samples: number): TakeMoment | null {
    const found = toTake(placeSegments(lesson.programme), Math.round(samples));
    return found && { take: found.placed.segment.take, atSamples: found.takeSamples };
  }
  /** Nothing is heard in the chosen stretch, because it was silenced. */
  const isChosenSilenced = computed(() => {
    if (!chosen.value) return false;
    const { fromSamples, toSamples } = chosen.value;
    const inside = split(split(lesson.programme, fromSamples).after, toSamples - fromSamples).before;
    return inside.some(isSilenced) && inside.every((one) => voiceOf(one) === null);
  });

  /** @returns where to go on from */
  function play(edited: Programme, at: number): number {
    void editing.play(edited);
    return Math.min(at, programmeLength(edited));
  }

  /** Edits the chosen stretch. Right behind another edit, while its tools are still seen, none is chosen: nothing is done then. */
  function playChosen(
    edit: (programme: Programme, stretch: Stretch) => Programme,
    goOn: (stretch: Stretch) => number = ({ fromSamples }) => fromSamples,
  ): number | null {
    return chosen.value && play(edit(lesson.programme, chosen.value), goOn(chosen.value));
  }

  const cutOut = (ink: CutInk) => playChosen((programme, stretch) => cut(programme, stretch, ink));
  const repeat = () => playChosen(repeated, ({ toSamples }) => toSamples);
  const quicken = (pace: number) => playChosen((programme, stretch) => quickened(programme, stretch, pace));
  const silence = () => playChosen(isChosenSilenced.value ? sounded : silenced);
  const keepChosen = () =>
    playChosen(
      (programme, { fromSamples, toSamples }) => trim(programme, fromSamples, toSamples),
      () => 0,
    );
  const divide = (atSamples: number) => play(dividedAt(lesson.programme, Math.round(atSamples)), atSamples);
  const still = (atSamples: number, stillSamples: number) =>
    play(withStill(lesson.programme, Math.round(atSamples), stillSamples), atSamples);
  const keepOnly = ({ fromSamples, toSamples }: Stretch) => play(trim(lesson.programme, fromSamples, toSamples), 0);

  /** Moves the chosen stretch to a moment outside it. */
  function moveTo(atSamples: number): number | null {
    const at = Math.round(atSamples);
    return playChosen(
      (programme, stretch) => moved(programme, stretch, at),
      ({ fromSamples, toSamples }) => (at <= fromSamples ? at : at - (toSamples - fromSamples)),
    );
  }

  /** Chooses what lies between the splices on either side of a moment. */
  function choosePart(atSamples: number): void {
    const { fromSamples, toSamples } = partAt(lesson.programme, atSamples);
    stretch.ends = { from: fromSamples, to: toSamples };
  }

  /** The next moment of a sort before or behind this one; the beginning or the end where there is none. */
  function step(by: StepBy, fromSamples: number, direction: 1 | -1): number {
    const from = Math.round(fromSamples);
    if (by === 'frame') {
      const frame = CLOCK_HZ / FRAMES_PER_SECOND;
      return Math.min(lesson.lengthSamples, Math.max(0, (Math.round(from / frame) + direction) * frame));
    }
    const moments = momentsBy[by]();
    if (direction > 0) return moments.find((one) => one > from) ?? lesson.lengthSamples;
    return moments.findLast((one) => one < from) ?? 0;
  }

  /** Goes along the trail by what is chosen, to be heard as it goes. */
  function stepAlong(direction: 1 | -1): void {
    listening.pause();
    listening.scrub(step(stepBy.value, listening.samples, direction));
  }

  /** Goes along by something else. */
  function stepByNext(): void {
    stepBy.value = STEPS_BY[(STEPS_BY.indexOf(stepBy.value) + 1) % STEPS_BY.length];
  }

  /** The stretch begins or ends at the playhead. */
  function setStretchEnd(end: 'from' | 'to'): void {
    const at = listening.samples;
    if (end === 'from' ? at >= lesson.lengthSamples : at <= 0) return;
    const { from, to } = stretch.ends ?? { from: 0, to: lesson.lengthSamples };
    if (end === 'from') stretch.ends = { from: at, to: to > at ? to : lesson.lengthSamples };
    else stretch.ends = { from: from < at ? from : 0, to: at };
  }

  const marksOf = (...kinds: Mark['kind'][]) =>
    (lesson.timeline?.trail.marks ?? []).filter(({ kind }) => kinds.includes(kind)).map(({ atSamples }) => atSamples);
  const momentsBy: Record<Exclude<StepBy, 'frame'>, () => number[]> = {
    stroke: () => marksOf('ink'),
    pause: () =>
      lesson.timeline
        ? pausesIn(lesson.programme, lesson.timeline.trail, voices.speechOf, PAUSE_SAMPLES).map(
            (one) => one.fromSamples,
          )
        : [],
    page: () => marksOf('turn'),
    chapter: () => chapters.value.map(({ startSamples }) => startSamples),
  };

  return {
    isOn,
    stepBy,
    kept,
    step,
    stepAlong,
    stepByNext,
    setStretchEnd,
    chosen,
    splices,
    cues,
    chapters,
    prompts,
    momentAt,
    isSilenced: isChosenSilenced,
    cutOut,
    repeat,
    quicken,
    divide,
    still,
    keepChosen,
    keepOnly,
    silence,
    moveTo,
    choosePart,
  };
});
