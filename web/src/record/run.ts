import type { History } from '@kite-trail/core/formats/history-coding';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { Scene } from '@kite-trail/core/lesson/scene';
import { CLOCK_HZ, samplesToSeconds } from '@kite-trail/core/trail/clock';
import { slice } from '@kite-trail/core/trail/edit';
import { InkWaits } from '@kite-trail/core/trail/ink-waits';
import { openingMarks, openingScene, type TakePlan } from '@kite-trail/core/trail/plan';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { nanoid } from 'nanoid';
import { useOutbox } from '../app/outbox';
import type { SoundSource } from '../capture/sound-source';
import { TakeRecorder, type NewTake } from '../capture/take-recorder';
import { useDesk } from '../lesson/desk';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { useVoiceUrls } from '../lesson/voice-urls';
import { ofLesson } from '../lesson/lesson-scope';
import { useVoices } from '../lesson/voices';
import { VoicePlayback } from '../playback/voice-playback';

/** Between telling the sound card to begin and its beginning. */
export const HEAD_START_SECONDS = 0.2;
/** Web Audio renders this many frames at a time (W3C Web Audio, section 2.5). */
const RENDER_QUANTUM = 128;

/** A take that is being made. */
export interface Run {
  take: NewTake;
  recorder: TakeRecorder;
  /** The programme as it was when it began, and what it showed. */
  programme: Programme;
  timeline: Timeline | null;
  /** Where in the programme the take begins. */
  fromSamples: number;
  /** What lies on the desk then. */
  scene: Scene;
  /** The voice that is heard meanwhile: the run-up, and what new ink is written to. */
  playback: VoicePlayback | null;
  /** The context's time at which the take begins. */
  beginsSeconds: number;
  /** Old ink that is played while a new voice is spoken. */
  waits: InkWaits | null;
  /** What could be undone on the desk before. */
  history: History;
  /** Sound has come in: from now on it is kept. */
  hasBegun: boolean;
  /** Ends what was begun for it. */
  finish(): Promise<void>;
}

/** Makes a take ready, and the old voice that is heard with it. */
export const useRuns = ofLesson(() => {
  const desk = useDesk();
  const lesson = useLesson();
  const voiceUrls = useVoiceUrls();
  const editing = useEditing();
  const voices = useVoices();
  const outbox = useOutbox();

  async function prepare(wanted: TakePlan, source: SoundSource, hasSound: boolean): Promise<Run> {
    await Promise.all([lesson.save(), editing.sent()]);
    const { programme, timeline } = lesson;
    const isAtEnd = wanted.kind === 'carry-on';
    const fromSamples = isAtEnd ? lesson.lengthSamples : 'atSamples' in wanted ? wanted.atSamples : wanted.fromSamples;
    const { base, takes } = lesson.recorded!;
    const scene = isAtEnd ? desk.scene! : openingScene(base, programme, takes, wanted);
    const opening = openingMarks(wanted, lesson.between, scene.shown);
    const { id } = lesson.document!;
    const { revision } = lesson;
    const take: NewTake = { id: nanoid(16) as TakeId, lesson: id, hasSound, plan: wanted, revision };
    const recorder = await TakeRecorder.prepare(await outbox.open(), source, take, opening);
    const waits =
      wanted.kind === 're-speak' && timeline
        ? new InkWaits(timeline.trail.marks, fromSamples, programmeLength(wanted.replaced))
        : null;
    const finish = () => Promise.resolve();
    const { history } = desk;
    const [playback, beginsSeconds, hasBegun] = [null, 0, false];
    return {
      take,
      recorder,
      programme,
      timeline,
      fromSamples,
      scene,
      playback,
      beginsSeconds,
      waits,
      history,
      hasBegun,
      finish,
    };
  }

  /** Makes the voice from a moment of the programme ready, and sets when the take begins. */
  async function playFrom(run: Run, atSamples: number, leadSamples: number): Promise<void> {
    const { plan } = run.take;
    const replaced = plan.kind === 're-ink' ? programmeLength(plan.replaced) : 0;
    const heard = slice(run.programme, atSamples, Math.max(atSamples, run.fromSamples + replaced));
    if (heard.length === 0) return;
    const frame = await cued(run, heard, leadSamples);
    run.beginsSeconds = frame / CLOCK_HZ;
    run.playback!.start(run.beginsSeconds - samplesToSeconds(leadSamples));
  }

  /** Lets the old voice go on where new ink has come to. @returns the frame at which it does */
  async function playOn(run: Run, replaced: Programme): Promise<number> {
    const end = run.fromSamples + programmeLength(replaced);
    const rest = slice(run.programme, run.fromSamples + run.recorder.lengthSamples, end);
    const frame = await cued(run, rest, 0);
    run.playback?.start(frame / CLOCK_HZ);
    return frame;
  }

  /** Makes a voice ready. @returns the frame at which a take can begin, so long after it */
  async function cued(run: Run, heard: Programme, leadSamples: number): Promise<number> {
    const { context } = run.recorder.source;
    const [urls, mastering] = [voiceUrls.ofAll(heard), voices.masteringNow(heard)];
    const isHeard = heard.length > 0;
    run.playback = isHeard ? await VoicePlayback.prepare(context, { programme: heard, urls, mastering }) : null;
    const earliest = (context.currentTime + HEAD_START_SECONDS) * CLOCK_HZ + leadSamples;
    return Math.ceil(earliest / RENDER_QUANTUM) * RENDER_QUANTUM;
  }

  return { prepare, playFrom, playOn };
});

/** Where a take that is being made is to play, as far as is known. */
export function planNow({ take, waits, recorder }: Run): TakePlan {
  if (!waits || take.plan.kind !== 're-speak') return take.plan;
  return { ...take.plan, holds: waits.holdsAt(recorder.lengthSamples) };
}
