import { InkPoints } from '@kite-trail/core/ink/points';
import { NO_HISTORY, type History } from '@kite-trail/core/formats/history-coding';
import type { PageId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Change, Mark } from '@kite-trail/core/lesson/mark';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { CLOCK_HZ, samplesToSeconds } from '@kite-trail/core/trail/clock';
import { slice } from '@kite-trail/core/trail/edit';
import { InkWaits } from '@kite-trail/core/trail/ink-waits';
import { isStretchPlan, openingScene, type StretchPlan, type TakePlan } from '@kite-trail/core/trail/plan';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import type { Moment, Timeline } from '@kite-trail/core/trail/timeline';
import equal from 'fast-deep-equal';
import { useEventListener } from '@vueuse/core';
import { nanoid } from 'nanoid';
import { computed, onScopeDispose, ref, shallowRef, toRefs, watch } from 'vue';
import type { WetStroke } from '../capture/pen-input';
import { claimRecording } from '../capture/recording-claim';
import { SleepWatch, type Interruption } from '../capture/sleep-watch';
import { NoMicrophone, SoundSource } from '../capture/sound-source';
import { stayAwake } from '../capture/stay-awake';
import { VoiceWatch, type NoVoice } from '../capture/voice-watch';
import { TakeRecorder, type NewTake } from '../capture/take-recorder';
import { takeFrom } from '../outbox/take-parts';
import { VoicePlayback } from '../playback/voice-playback';
import { api } from '../server/api';
import { useDesk } from '../lesson/desk';
import { useSession } from '../app/session';
import { useEditing } from '../lesson/editing';
import { useLesson } from '../lesson/lesson';
import { useRecordingNow, type RecordingState } from '../lesson/recording-now';
import { useMicrophone } from './microphone';
import { useOutbox } from '../app/outbox';
import { useVoices } from '../lesson/voices';
import { useNotices } from '../lesson/notices';
import { ofLesson } from '../lesson/lesson-scope';

const RUN_UP_SECONDS = 3;
const METER_FALL_DB = 1.5;
const SILENT_DB = -90;
const MICROPHONE_GONE =
  'The microphone is gone, so the recording is paused. Plug it in again and record on, or stop: all so far is kept.';
const WITHOUT_VOICE: Record<NoVoice, string> = {
  silence:
    'For some seconds or more nothing came from the microphone, not even noise. Listen to the take before you go on.',
  noise: 'Nothing but noise came from the microphone all the time. If you spoke, check it before you go on.',
};
const NO_VOICE: Record<NoVoice, string> = {
  silence:
    'Nothing comes from the microphone, not even noise. It may be switched off, or another one is meant: pause, and check it.',
  noise:
    'Nothing but noise has come from the microphone so far. If you are speaking, another one may be meant: pause, and check it.',
};
/** Between telling the sound card to begin and its beginning. */
const HEAD_START_SECONDS = 0.2;
/** Web Audio renders this many frames at a time (W3C Web Audio, section 2.5). */
const RENDER_QUANTUM = 128;
const NOT_SECURE =
  'Browsers record only on secure addresses. Open Kite Trail by https, or on the machine it runs on by localhost.';
const NO_WEBCODECS =
  'This browser cannot encode sound. Use a current Chrome, Edge, Firefox or Safari, or record without voice.';
const SILENT = { choice: 'none', deviceId: '', echoCancellation: false, noiseSuppression: false, delayMs: 0 } as const;

/** A recording going on. */
interface Run {
  take: NewTake;
  recorder: TakeRecorder;
  /** The programme as it was when it began, and what it showed. */
  programme: Programme;
  timeline: Timeline | null;
  /** Where in the programme the take begins. */
  fromSamples: number;
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

/** A stretch that was done over, with the programme before and after. */
interface Redone {
  plan: StretchPlan;
  take: TakeId;
  before: Programme;
  after: Programme;
}

/** The take being recorded. */
export const useRecording = ofLesson(() => {
  const desk = useDesk();
  const lesson = useLesson();
  const editing = useEditing();
  const voices = useVoices();
  const microphone = useMicrophone();
  const outbox = useOutbox();

  const known = useRecordingNow();
  const { state, plan, isStarting, isOn, takesInk } = toRefs(known);
  /** Seconds until it begins. */
  const countdown = ref(0);
  /** How many takes this window has recorded. */
  const taken = ref(0);
  const elapsedSamples = ref(0);
  /** How much of it was on the page that is shown. */
  const pageSamples = ref(0);
  const peakDb = ref(SILENT_DB);
  const problem = useNotices().place('problem');
  /** Why it is paused, where it was not the teacher who paused it. */
  const pausedBy = useNotices().place('news');
  /** What is shown in place of the desk: the run-up, or the ink a new voice is spoken over. */
  const moment = shallowRef<Moment | null>(null);
  const inkWaits = ref(false);
  /** The microphone went away, and has not been heard again since. */
  const isMicrophoneLost = ref(false);
  /** What is wrong with what comes from the microphone just now. */
  const noVoice = ref<NoVoice | null>(null);
  /** A stretch that was just done over, with the programme before and after: both can be heard and one chosen. */
  const lastRedone = shallowRef<Redone | null>(null);
  const redone = computed({
    // In a trail that has changed otherwise there is nothing to choose any more.
    get: () => (lastRedone.value && equal(lesson.programme, lastRedone.value.after) ? lastRedone.value : null),
    set: (to: Redone | null) => (lastRedone.value = to),
  });
  let run: Run | null = null;
  let ticking = 0;
  let frame = 0;
  let onPage = { page: null as PageId | null, sinceSamples: 0, beforeSamples: new Map<PageId, number>() };
  const sleepWatch = new SleepWatch();
  let hearsMicrophone = false;
  const voiceWatch = new VoiceWatch();
  /** The microphone is being made ready to go on. */
  let isWaking = false;

  /** Counts down, or plays the run-up, then records. */
  async function start(wanted: TakePlan = { kind: 'carry-on' }): Promise<void> {
    if (state.value !== 'idle') return;
    problem.value = pausedBy.value = redone.value = null;
    outbox.forgetFound(lesson.document!.id);
    void outbox.askToPersist();
    state.value = 'counting';
    plan.value = wanted;
    let release = () => {};
    try {
      const settings = wanted.kind === 're-ink' ? SILENT : microphone.settings;
      if (!window.isSecureContext) throw new NoMicrophone(NOT_SECURE);
      if (settings.choice !== 'none' && typeof AudioEncoder === 'undefined') throw new NoMicrophone(NO_WEBCODECS);
      release = await claimRecording(lesson.document!.id);
      const source = await SoundSource.open(settings);
      const now = await prepare(wanted, source, settings.choice !== 'none').catch((error: Error) => {
        source.close();
        throw error;
      });
      run = now;
      await leadIn(now);
      if (isStarting.value) record(now, release);
      // Until the first sound comes in it can still be given up.
      while (isStarting.value) await new Promise((resolve) => setTimeout(resolve, 50));
      if (now.hasBegun) return;
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error);
    }
    if (run) await giveUp(run);
    release();
    state.value = 'idle';
  }

  async function prepare(wanted: TakePlan, source: SoundSource, hasSound: boolean): Promise<Run> {
    await Promise.all([lesson.save(), editing.sent()]);
    const { programme, timeline } = lesson;
    const fromSamples =
      wanted.kind === 'carry-on' ? lesson.lengthSamples : 'atSamples' in wanted ? wanted.atSamples : wanted.fromSamples;
    const isAtEnd = wanted.kind === 'carry-on';
    const scene = isAtEnd
      ? desk.scene!
      : openingScene(lesson.recorded!.base, programme, lesson.recorded!.takes, wanted);
    const opening: Mark[] = [
      ...(isAtEnd ? lesson.between.map((mark) => ({ ...mark, atSamples: 0 })) : []),
      ...(wanted.kind === 're-speak' ? [] : [{ kind: 'turn', page: scene.shown, atSamples: 0 } as const]),
    ];
    const { id } = lesson.document!;
    const { revision } = lesson;
    const take: NewTake = { id: nanoid(16) as TakeId, lesson: id, hasSound, plan: wanted, revision };
    const recorder = await TakeRecorder.prepare(await outbox.open(), source, take, opening);
    const waits =
      wanted.kind === 're-speak' && timeline
        ? new InkWaits(timeline.trail.marks, fromSamples, programmeLength(wanted.replaced))
        : null;
    const { history } = desk;
    // Whoever turns the page while seconds are counted begins on that page.
    known.mark = mark;
    desk.lay(() => scene);
    const finish = () => Promise.resolve();
    return {
      take,
      recorder,
      programme,
      timeline,
      fromSamples,
      playback: null,
      beginsSeconds: 0,
      waits,
      history,
      hasBegun: false,
      finish,
    };
  }

  /** Before a take that carries on, seconds are counted; before any other, what precedes it is played. */
  async function leadIn(now: Run): Promise<void> {
    const isAtEnd = now.take.plan.kind === 'carry-on';
    const runUpSamples = isAtEnd ? 0 : Math.min(now.fromSamples, RUN_UP_SECONDS * CLOCK_HZ);
    if (runUpSamples === 0) await count();
    if (!isStarting.value) return;
    await playFrom(now, now.fromSamples - runUpSamples, runUpSamples);
    // It may have been given up while the voice was being made ready.
    if (isStarting.value && runUpSamples > 0) await playRunUp(now);
  }

  async function count(): Promise<void> {
    const endMs = performance.now() + Number(microphone.countdown) * 1000;
    await countDown('counting', () => (endMs - performance.now()) / 1000);
  }

  async function countDown(during: RecordingState, leftSeconds: () => number): Promise<void> {
    while (state.value === during && leftSeconds() > 0) {
      countdown.value = Math.ceil(leftSeconds());
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    countdown.value = 0;
  }

  /** Makes the voice from a moment of the programme ready, and sets when the take begins. */
  async function playFrom(now: Run, atSamples: number, leadSamples: number): Promise<void> {
    const { plan: wanted } = now.take;
    const { context } = now.recorder.source;
    const replaced = wanted.kind === 're-ink' ? programmeLength(wanted.replaced) : 0;
    const heard = slice(now.programme, atSamples, Math.max(atSamples, now.fromSamples + replaced));
    if (heard.length === 0) return;
    now.playback = await VoicePlayback.prepare(context, voicesOf(heard));
    const earliest = (context.currentTime + HEAD_START_SECONDS) * CLOCK_HZ + leadSamples;
    now.beginsSeconds = (Math.ceil(earliest / RENDER_QUANTUM) * RENDER_QUANTUM) / CLOCK_HZ;
    now.playback.start(now.beginsSeconds - samplesToSeconds(leadSamples));
  }

  const voicesOf = (programme: Programme) => ({
    programme,
    urls: lesson.soundUrls(programme),
    mastering: voices.masteringNow(programme),
  });

  async function playRunUp(now: Run): Promise<void> {
    state.value = 'run-up';
    show(now);
    const { source } = now.recorder;
    const leftSeconds = () => now.beginsSeconds - source.heardSecondsAt(performance.now());
    // The sound card is told a little before.
    await countDown('run-up', () => leftSeconds() - HEAD_START_SECONDS);
  }

  /** Gives up before anything is recorded. */
  function cancel(): void {
    if (isStarting.value) state.value = 'ending';
  }

  async function giveUp(now: Run): Promise<void> {
    leave(now);
    await now.recorder.discard();
    lesson.layDesk(now.history);
  }

  function leave(now: Run): void {
    known.mark = null;
    now.playback?.stop();
    cancelAnimationFrame(frame);
    clearInterval(ticking);
    moment.value = null;
    countdown.value = 0;
    inkWaits.value = false;
    run = null;
  }

  function record(now: Run, release: () => void): void {
    const { recorder } = now;
    recorder.unfinished = () => desk.wet().map((wet, i) => unfinishedMark(wet, i));
    hearsMicrophone = now.take.hasSound && microphone.settings.choice === 'microphone';
    voiceWatch.begin(performance.now());
    recorder.onLevel = (level) => {
      voiceWatch.hear(level, performance.now());
      // The meter falls slowly, so that it can be read.
      peakDb.value = Math.max(level.peakDb, peakDb.value - METER_FALL_DB);
      if (isStarting.value) begun(now, release);
    };
    recorder.onEncoderFailed = (message) => {
      problem.value = `The voice can no longer be recorded (${message}). Stop and begin again; nothing so far is lost.`;
    };
    recorder.source.onLost = () => void lost();
    recorder.run(Math.round(now.beginsSeconds * CLOCK_HZ));
    ticking = window.setInterval(() => tick(now), 100);
  }

  /** The first sound has come in. */
  function begun(now: Run, release: () => void): void {
    now.hasBegun = true;
    now.recorder.begin();
    const letSleep = stayAwake();
    now.finish = async () => {
      letSleep();
      await end(now);
      release();
    };
    onPage = { page: desk.scene!.shown, sinceSamples: 0, beforeSamples: new Map() };
    elapsedSamples.value = pageSamples.value = 0;
    countdown.value = 0;
    sleepWatch.rest();
    state.value = 'recording';
    if (now.take.plan.kind !== 're-speak') moment.value = null;
    show(now);
  }

  function mark(change: Change, performanceMs: number): void {
    // Old ink turns the pages itself while a new voice is spoken.
    if (plan.value.kind === 're-speak') return;
    if (change.kind === 'turn') turned(change.page);
    run?.recorder.mark(change, performanceMs);
  }

  function turned(page: PageId): void {
    const now = run?.recorder.lengthSamples ?? 0;
    const { page: left, sinceSamples, beforeSamples } = onPage;
    if (left) beforeSamples.set(left, (beforeSamples.get(left) ?? 0) + now - sinceSamples);
    onPage = { page, sinceSamples: now, beforeSamples };
  }

  function tick({ recorder }: Run): void {
    const samples = recorder.lengthSamples;
    elapsedSamples.value = samples;
    pageSamples.value = (onPage.beforeSamples.get(onPage.page!) ?? 0) + samples - onPage.sinceSamples;
    if (state.value !== 'recording') return sleepWatch.rest();
    const nowMs = performance.now();
    const interruption = sleepWatch.tick({ wallMs: Date.now(), steadyMs: nowMs, samples });
    if (interruption) return void interrupt(whyOf(interruption));
    noVoice.value = hearsMicrophone ? voiceWatch.found(nowMs) : null;
  }

  /** Shows the run-up, or the ink that is spoken over, frame by frame. */
  function show(now: Run): void {
    cancelAnimationFrame(frame);
    const { timeline, recorder, fromSamples, waits } = now;
    const next = () => {
      const nowMs = performance.now();
      if (state.value === 'run-up') {
        const since = Math.round((recorder.source.heardSecondsAt(nowMs) - now.beginsSeconds) * CLOCK_HZ);
        moment.value = timeline!.at(fromSamples + Math.min(0, since));
      } else if (waits && isOn.value) {
        moment.value = timeline!.at(fromSamples + waits.inkAt(recorder.source.clock.samplesAt(nowMs)));
      } else {
        return;
      }
      frame = requestAnimationFrame(next);
    };
    next();
  }

  /** Lets the old ink wait for the voice, or go on. */
  function holdInk(): void {
    const { waits, recorder } = run ?? {};
    if (!waits || !recorder || !isOn.value) return;
    const now = recorder.source.clock.samplesAt(performance.now());
    if (waits.isHolding) waits.release(now);
    else waits.hold(now);
    inkWaits.value = waits.isHolding;
    // What is known so far survives a crash, too.
    void outbox.open().then((opened) => run && opened.plan(run.take.id, planNow(run)));
  }

  function planNow({ take, waits, recorder }: Run): TakePlan {
    if (!waits || take.plan.kind !== 're-speak') return take.plan;
    return { ...take.plan, holds: waits.holdsAt(recorder.lengthSamples) };
  }

  function unfinishedMark(wet: WetStroke, i: number): Mark {
    const stroke = newStroke({
      id: nanoid(12) as PieceId,
      z: desk.nextZ() + i,
      pen: wet.pen,
      points: InkPoints.from(wet.samples),
    });
    return run!.recorder.timed({ kind: 'ink', page: desk.scene!.shown, stroke }, wet.beganMs);
  }

  async function lost(): Promise<void> {
    isMicrophoneLost.value = run?.take.hasSound ?? false;
    // It may go away while the recording is paused already, for whatever reason.
    if (state.value === 'paused') pausedBy.value = MICROPHONE_GONE;
    else await interrupt(MICROPHONE_GONE);
  }

  /** Pauses because of something else than the teacher's wish, and says so. */
  async function interrupt(why = 'The recording is paused. Resume when you are ready.'): Promise<void> {
    if (state.value !== 'recording') return;
    pausedBy.value = why;
    await pause();
  }

  async function pause(): Promise<void> {
    if (state.value !== 'recording' || !run) return;
    state.value = 'paused';
    noVoice.value = null;
    run.playback?.stop();
    await run.recorder.pause();
    elapsedSamples.value = run.recorder.lengthSamples;
    peakDb.value = SILENT_DB;
  }

  async function resume(): Promise<void> {
    if (state.value !== 'paused' || !run || isWaking) return;
    const { recorder, take, fromSamples } = run;
    isWaking = true;
    try {
      await recorder.source.wake(microphone.settings);
    } catch (error) {
      pausedBy.value = `${(error as Error).message} All so far is kept.`;
      return;
    } finally {
      isWaking = false;
    }
    if (state.value !== 'paused') return;
    isMicrophoneLost.value = false;
    problem.value = pausedBy.value = null;
    voiceWatch.goOn(performance.now());
    if (take.plan.kind === 're-ink') {
      // The voice goes on where the ink has come to.
      const length = recorder.lengthSamples;
      const end = fromSamples + programmeLength(take.plan.replaced);
      const rest = slice(run.programme, fromSamples + length, end);
      run.playback = rest.length > 0 ? await VoicePlayback.prepare(recorder.source.context, voicesOf(rest)) : null;
      const earliest = (recorder.source.context.currentTime + HEAD_START_SECONDS) * CLOCK_HZ;
      const beginsFrame = Math.ceil(earliest / RENDER_QUANTUM) * RENDER_QUANTUM;
      run.playback?.start(beginsFrame / CLOCK_HZ);
      recorder.run(beginsFrame);
    } else {
      recorder.run();
    }
    state.value = 'recording';
  }

  /** Records on with whatever microphone the browser prefers, where the one that was chosen has gone. */
  async function resumeWithAnother(): Promise<void> {
    microphone.deviceId = '';
    await resume();
  }

  /** Ends the take. It can be played at once, whether or not the server has it already. */
  async function stop(): Promise<void> {
    if (!isOn.value || !run) return;
    state.value = 'ending';
    await run.finish();
  }

  async function end(now: Run): Promise<void> {
    const { recorder, take, programme, history } = now;
    clearInterval(ticking);
    now.playback?.stop();
    // A pause before its end says nothing of the microphone.
    const without = hearsMicrophone && recorder.isRunning ? voiceWatch.foundInAll(performance.now()) : null;
    await recorder.stop();
    const ended = planNow(now);
    const opened = await outbox.open();
    const parts = await opened.parts(take.id);
    const { take: recorded, sound, heard } = takeFrom(take.id, parts, true);
    const { lengthSamples } = recorded;
    leave(now);
    // What the school has refused is no part of the lesson; it is kept here, and told.
    const isPlaced = lengthSamples > 0 && !opened.isSetAside(take.id);
    if (isPlaced) {
      lesson.addTake(recorded, ended, sound);
      if (sound) voices.know(take.id, heard);
    }
    state.value = 'idle';
    elapsedSamples.value = 0;
    peakDb.value = SILENT_DB;
    noVoice.value = null;
    if (without) problem.value = WITHOUT_VOICE[without];
    lesson.layDesk(take.plan.kind === 'carry-on' ? NO_HISTORY : history);
    if (isStretchPlan(ended) && isPlaced) {
      redone.value = { plan: ended, take: take.id, before: programme, after: lesson.programme };
    }
    const { id, lesson: of } = take;
    await opened.add(of, { kind: 'end', take: id, parts: parts.length, recover: false, plan: ended, payload: null });
    taken.value++;
  }

  const session = useSession();
  watch(state, (is) => (session.canBeAsked = is === 'idle'));
  onScopeDispose(() => (session.canBeAsked = true));
  useNotices().tellWhile('news', () => noVoice.value && NO_VOICE[noVoice.value]);
  watch(
    () => known.distractions,
    () => void interrupt(),
  );
  // A server that was started again knows nothing of who records.
  watch(
    () => lesson.reconnections,
    () => {
      if (isOn.value) void api.claimRecording(lesson.document!.id).catch(() => {});
    },
  );
  // Leaving in mid-recording asks first.
  useEventListener(window, 'beforeunload', (event) => {
    if (isOn.value || outbox.secondsToSend > 0 || lesson.isEditing) event.preventDefault();
  });
  useEventListener(window, 'pagehide', () => {
    if (isOn.value && lesson.document) api.releaseOnLeaving(lesson.document.id);
  });

  return {
    state,
    plan,
    countdown,
    taken,
    elapsedSamples,
    pageSamples,
    peakDb,
    isMicrophoneLost,
    noVoice,
    moment,
    inkWaits,
    redone,
    isStarting,
    isOn,
    takesInk,
    start,
    cancel,
    holdInk,
    interrupt,
    pause,
    resume,
    resumeWithAnother,
    stop,
  };
});

function whyOf(interruption: Interruption): string {
  if (interruption.kind === 'no-sound') {
    return 'No sound has come in for some seconds, so the recording is paused. Resume, or stop: all so far is kept.';
  }
  const seconds = Math.round(interruption.forMs / 1000);
  return `This device slept for ${seconds} seconds, so the recording is paused. All until then is kept; resume when you are ready.`;
}
