import { NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { PieceId } from '@kite-trail/core/lesson/ids';
import type { Change, Mark } from '@kite-trail/core/lesson/mark';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { isStretchPlan, type TakePlan } from '@kite-trail/core/trail/plan';
import { useEventListener } from '@vueuse/core';
import { nanoid } from 'nanoid';
import { onScopeDispose, ref, shallowRef, toRefs, watch } from 'vue';
import { useOutbox } from '../app/outbox';
import { useSession } from '../app/session';
import type { WetStroke } from '../capture/pen-input';
import { claimRecording } from '../capture/recording-claim';
import { NoMicrophone, SoundSource } from '../capture/sound-source';
import { stayAwake } from '../device/stay-awake';
import { useDesk } from '../lesson/desk';
import { useLesson } from '../lesson/lesson';
import { useOtherWindows } from '../lesson/other-windows';
import { ofLesson } from '../lesson/lesson-scope';
import { useNotices } from '../lesson/notices';
import { useRecordingNow } from '../lesson/recording-now';
import { useVoices } from '../lesson/voices';
import { takeFrom } from '../outbox/take-parts';
import { api } from '../server/api';
import { WITHOUT_VOICE } from './guards';
import { after, type Recording, type RecordingEvent } from './machine';
import { useMeters } from './meters';
import { useDoneOver } from './done-over';
import { useMicrophone } from './microphone/microphone';
import { useOldInk } from './old-ink';
import { HEAD_START_SECONDS, planNow, useRuns, type Run } from './run';

const RUN_UP_SECONDS = 3;
const CHECKED_EVERY_MS = 50;
const PAUSED = 'The recording is paused. Resume when you are ready.';
const MICROPHONE_GONE =
  'The microphone is gone, so the recording is paused. Plug it in again and record on, or stop: all so far is kept.';
const NOT_SECURE =
  'Browsers record only on secure addresses. Open Kite Trail by https, or on the machine it runs on by localhost.';
const NO_WEBCODECS =
  'This browser cannot encode sound. Use a current Chrome, Edge, Firefox or Safari, or record without voice.';
const SILENT = { choice: 'none', deviceId: '', echoCancellation: false, noiseSuppression: false, delayMs: 0 } as const;

/** The take being recorded. */
export const useRecording = ofLesson(() => {
  const desk = useDesk();
  const lesson = useLesson();
  const others = useOtherWindows();
  const voices = useVoices();
  const microphone = useMicrophone();
  const outbox = useOutbox();
  const session = useSession();
  const runs = useRuns();
  const oldInk = useOldInk();
  const meters = useMeters();
  const done = useDoneOver();
  const notices = useNotices();
  const known = useRecordingNow();
  const { state, plan, isStarting, isOn, takesInk } = toRefs(known);

  const machine = shallowRef<Recording<Run>>({ is: 'idle' });
  /** Seconds until it begins. */
  const countdown = ref(0);
  /** How many takes this window has recorded. */
  const taken = ref(0);
  const problem = notices.place('problem');
  /** Why it is paused, where it was not the teacher who paused it. */
  const pausedBy = notices.place('news');
  /** The microphone went away, and has not been heard again since. */
  const isMicrophoneLost = ref(false);
  /** The microphone is being made ready to go on. */
  let isWaking = false;

  /** @returns whether it could happen, and so did */
  function happen(event: RecordingEvent<Run>): boolean {
    const before = machine.value;
    const now = after(before, event);
    machine.value = now;
    state.value = now.is;
    if (now.is !== 'idle') plan.value = now.plan;
    return now !== before;
  }

  const run = (): Run | null => (machine.value.is === 'idle' ? null : machine.value.run);

  /** Counts down, or plays the run-up, then records. */
  async function start(wanted: TakePlan = { kind: 'carry-on' }): Promise<void> {
    if (!happen({ of: 'begin', plan: wanted })) return;
    problem.value = pausedBy.value = null;
    done.over = null;
    outbox.forgetFound(lesson.document!.id);
    void outbox.askToPersist();
    let release = () => {};
    let begun: Run | null = null;
    try {
      const settings = wanted.kind === 're-ink' ? SILENT : microphone.settings;
      if (!window.isSecureContext) throw new NoMicrophone(NOT_SECURE);
      if (settings.choice !== 'none' && typeof AudioEncoder === 'undefined') throw new NoMicrophone(NO_WEBCODECS);
      release = await claimRecording(lesson.document!.id);
      const source = await SoundSource.open(settings);
      begun = await runs.prepare(wanted, source, settings.choice !== 'none').catch((error: Error) => {
        source.close();
        throw error;
      });
      happen({ of: 'opened', run: begun });
      // Whoever turns the page while seconds are counted begins on that page.
      known.mark = mark;
      desk.lay(() => begun!.scene);
      await leadIn(begun);
      if (isStarting.value) record(begun, release);
      // Until the first sound comes in it can still be given up.
      while (isStarting.value) await nextCheck();
      if (begun.hasBegun) return;
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error);
    }
    if (begun) await giveUp(begun);
    release();
    happen({ of: 'over' });
  }

  const nextCheck = () => new Promise((resolve) => setTimeout(resolve, CHECKED_EVERY_MS));

  /** Before a take that carries on, seconds are counted; before any other, what precedes it is played. */
  async function leadIn(now: Run): Promise<void> {
    const isAtEnd = now.take.plan.kind === 'carry-on';
    const runUpSamples = isAtEnd ? 0 : Math.min(now.fromSamples, RUN_UP_SECONDS * CLOCK_HZ);
    if (runUpSamples === 0) {
      const endMs = performance.now() + Number(microphone.countdown) * 1000;
      await countDown('counting', () => (endMs - performance.now()) / 1000);
    }
    if (!isStarting.value) return;
    await runs.playFrom(now, now.fromSamples - runUpSamples, runUpSamples);
    // It may have been given up while the voice was being made ready.
    if (runUpSamples === 0 || !happen({ of: 'run-up' })) return;
    oldInk.show(now);
    const remainingSeconds = () => now.beginsSeconds - now.recorder.source.heardSecondsAt(performance.now());
    // The sound card is told a little before.
    await countDown('run-up', () => remainingSeconds() - HEAD_START_SECONDS);
  }

  async function countDown(during: Recording<Run>['is'], remainingSeconds: () => number): Promise<void> {
    while (state.value === during && remainingSeconds() > 0) {
      countdown.value = Math.ceil(remainingSeconds());
      await nextCheck();
    }
    countdown.value = 0;
  }

  /** Gives up before anything is recorded. */
  const cancel = (): void => void happen({ of: 'cancel' });

  async function giveUp(now: Run): Promise<void> {
    leave(now);
    await now.recorder.discard();
    lesson.layDesk(now.history);
  }

  function leave(now: Run): void {
    now.playback?.stop();
    meters.close();
    oldInk.hide();
    countdown.value = 0;
    known.mark = null;
  }

  function record(now: Run, release: () => void): void {
    const { recorder, take } = now;
    recorder.unfinished = () => desk.wet().map((wet, i) => unfinishedMark(recorder, wet, i));
    const hearsMicrophone = take.hasSound && microphone.settings.choice === 'microphone';
    recorder.onLevel = (level) => {
      meters.hear(level);
      if (isStarting.value) begun(now, release);
    };
    recorder.onEncoderFailed = (message) => {
      problem.value = `The voice can no longer be recorded (${message}). Stop and begin again; nothing so far is lost.`;
    };
    recorder.source.onLost = () => lost(now);
    recorder.run(Math.round(now.beginsSeconds * CLOCK_HZ));
    meters.open(recorder, hearsMicrophone, (why) => void interrupt(why));
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
    meters.begin(desk.scene!.shown);
    countdown.value = 0;
    happen({ of: 'heard' });
    oldInk.show(now);
  }

  function mark(change: Change, performanceMs: number): void {
    // Old ink turns the pages itself while a new voice is spoken.
    if (plan.value.kind === 're-speak') return;
    const recorder = run()?.recorder;
    if (change.kind === 'turn') meters.turned(change.page, recorder?.lengthSamples ?? 0);
    recorder?.mark(change, performanceMs);
  }

  /** Lets the old ink wait for the voice, or go on. */
  function holdInk(): void {
    const now = run();
    if (!now || !oldInk.hold(now)) return;
    // What is known so far survives a crash, too.
    void outbox.open().then((opened) => (run() === now ? opened.plan(now.take.id, planNow(now)) : undefined));
  }

  function unfinishedMark(recorder: Run['recorder'], wet: WetStroke, i: number): Mark {
    const stroke = newStroke({
      id: nanoid(12) as PieceId,
      z: desk.nextZ() + i,
      pen: wet.pen,
      points: InkPoints.from(wet.samples),
    });
    return recorder.timed({ kind: 'ink', page: desk.scene!.shown, stroke }, wet.beganMs);
  }

  function lost({ take }: Run): void {
    isMicrophoneLost.value = take.hasSound;
    // It may go away while the recording is paused already, for whatever reason.
    if (state.value === 'paused') pausedBy.value = MICROPHONE_GONE;
    else void interrupt(MICROPHONE_GONE);
  }

  /** Pauses because of something else than the teacher's wish, and says so. */
  async function interrupt(why: string): Promise<void> {
    if (state.value !== 'recording') return;
    pausedBy.value = why;
    await pause();
  }

  async function pause(): Promise<void> {
    const now = run();
    if (!now || !happen({ of: 'pause' })) return;
    now.playback?.stop();
    await now.recorder.pause();
    meters.rest(now.recorder.lengthSamples);
  }

  async function resume(): Promise<void> {
    const now = run();
    if (state.value !== 'paused' || !now || isWaking) return;
    const { recorder, take } = now;
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
    meters.goOn();
    if (take.plan.kind === 're-ink') recorder.run(await runs.playOn(now, take.plan.replaced));
    else recorder.run();
    happen({ of: 'resume' });
  }

  /** Records on with whatever microphone the browser prefers, where the one that was chosen has gone. */
  async function resumeWithAnother(): Promise<void> {
    microphone.deviceId = '';
    await resume();
  }

  /** Ends the take. It can be played at once, whether or not the server has it already. */
  async function stop(): Promise<void> {
    const now = run();
    if (now && happen({ of: 'stop' })) await now.finish();
  }

  async function end(now: Run): Promise<void> {
    const { recorder, take, programme, history } = now;
    now.playback?.stop();
    // A pause before its end says nothing of the microphone.
    const without = recorder.isRunning ? meters.noVoiceInAll() : null;
    await recorder.stop();
    const ended = planNow(now);
    const opened = await outbox.open();
    const parts = await opened.parts(take.id);
    const { take: recorded, sound, heard } = takeFrom(take.id, parts, true);
    leave(now);
    // What the school has refused is no part of the lesson; it is kept here, and told.
    const isPlaced = recorded.lengthSamples > 0 && !opened.isSetAside(take.id);
    if (isPlaced) {
      lesson.addTake(recorded, ended, sound);
      if (sound) voices.know(take.id, heard);
    }
    happen({ of: 'over' });
    if (without) problem.value = WITHOUT_VOICE[without];
    lesson.layDesk(take.plan.kind === 'carry-on' ? NO_HISTORY : history);
    if (isStretchPlan(ended) && isPlaced) {
      done.over = { plan: ended, take: take.id, before: programme, after: lesson.programme };
    }
    const { id, lesson: of } = take;
    await opened.add(of, { kind: 'end', take: id, parts: parts.length, recover: false, plan: ended, payload: null });
    taken.value++;
  }

  watch(state, (is) => (session.canBeAsked = is === 'idle'));
  onScopeDispose(() => (session.canBeAsked = true));
  watch(
    () => known.distractions,
    () => void interrupt(PAUSED),
  );
  // A server that was started again knows nothing of who records.
  watch(
    () => others.reconnections,
    () => {
      if (isOn.value) void api.claimRecording(lesson.document!.id).catch(() => {});
    },
  );
  // Leaving in mid-recording asks first.
  useEventListener(window, 'beforeunload', (event) => {
    if (isOn.value || lesson.isEditing) event.preventDefault();
  });
  useEventListener(window, 'pagehide', () => {
    if (isOn.value && lesson.document) api.releaseOnLeaving(lesson.document.id);
  });

  return {
    state,
    plan,
    isStarting,
    isOn,
    takesInk,
    countdown,
    taken,
    isMicrophoneLost,
    start,
    cancel,
    holdInk,
    pause,
    resume,
    resumeWithAnother,
    stop,
  };
});
