import { newStroke } from '@kite-trail/core/lesson/piece';
import { NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { LessonId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { InkPoints } from '@kite-trail/core/ink/points';
import { assembleTake } from '@kite-trail/core/trail/assemble';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { nanoid } from 'nanoid';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { Journal, type JournalTake } from '../capture/journal';
import type { WetStroke } from '../capture/pen-input';
import { NoMicrophone, SoundSource, type SoundChoice } from '../capture/sound-source';
import { PART_EVERY_MS, TakeRecorder } from '../capture/take-recorder';
import { recordingLock, Uploader, type UploadState } from '../capture/uploader';
import { api } from '../server/api';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { useDesk } from './desk';
import { useLesson } from './lesson';

export type RecordingState = 'idle' | 'counting' | 'recording' | 'paused' | 'ending';

const COUNTDOWN_SECONDS = 3;
const METER_FALL_DB = 1.5;
const NOT_SECURE =
  'Browsers record only on secure addresses. Open Kite Trail by https, or on the machine it runs on by localhost.';
const NO_WEBCODECS =
  'This browser cannot encode sound. Use a current Chrome, Edge, Firefox or Safari, or record without voice.';

/** The take being recorded, and those still on their way to the server. */
export const useRecording = defineStore('recording', () => {
  const desk = useDesk();
  const lesson = useLesson();

  const state = ref<RecordingState>('idle');
  const countdown = ref(0);
  const choice = ref<SoundChoice>('microphone');
  const elapsedSamples = ref(0);
  const peakDb = ref(-90);
  const problem = ref<string | null>(null);
  /** What was found and saved of recordings that broke off. */
  const found = ref<string | null>(null);
  const upload = ref<UploadState>('done');
  const partsHere = ref(0);
  const partsSafe = ref(0);
  const deviceFull = ref(false);
  let recorder: TakeRecorder | null = null;
  let uploader: Uploader | null = null;
  let wetStrokes: () => WetStroke[] = () => [];
  let ticking = 0;

  const isOn = computed(() => state.value === 'recording' || state.value === 'paused');
  /** Seconds that are only on this device. */
  const secondsToSend = computed(() =>
    Math.ceil((Math.max(0, partsHere.value - partsSafe.value) * PART_EVERY_MS) / 1000),
  );

  let journal: Promise<Journal> | null = null;
  function openJournal(): Promise<Journal> {
    journal ??= Journal.open().then((opened) => {
      opened.onFull = () => (deviceFull.value = true);
      return opened;
    });
    return journal;
  }

  /** The board tells which strokes are being written, so that even those survive a crash. */
  function watchWet(strokes: () => WetStroke[]): void {
    wetStrokes = strokes;
  }

  /** Counts down, then records. */
  async function start(): Promise<void> {
    if (state.value !== 'idle') return;
    problem.value = null;
    found.value = null;
    state.value = 'counting';
    try {
      if (!window.isSecureContext) throw new NoMicrophone(NOT_SECURE);
      if (choice.value !== 'none' && typeof AudioEncoder === 'undefined') throw new NoMicrophone(NO_WEBCODECS);
      const source = await SoundSource.open(choice.value);
      await count();
      if (state.value !== 'counting') return source.close();
      await begin(source);
    } catch (error) {
      state.value = 'idle';
      problem.value = error instanceof Error ? error.message : String(error);
    }
  }

  async function count(): Promise<void> {
    for (countdown.value = COUNTDOWN_SECONDS; countdown.value > 0; countdown.value--) {
      await new Promise((resolve) => setTimeout(resolve, 1000));
      if (state.value !== 'counting') break;
    }
    countdown.value = 0;
  }

  function cancelCountdown(): void {
    if (state.value === 'counting') state.value = 'idle';
  }

  async function begin(source: SoundSource): Promise<void> {
    const take = { id: nanoid(16) as TakeId, lesson: lesson.document!.id, hasSound: choice.value !== 'none' };
    // Held until the take is the server's: no other window may take it for abandoned meanwhile.
    let letGo = () => {};
    const handedOver = new Promise<void>((resolve) => (letGo = resolve));
    void navigator.locks.request(recordingLock(take.id), () => handedOver);
    await lesson.save();
    const opening: Mark[] = [
      ...lesson.between.map((mark) => ({ ...mark, atSamples: 0 })),
      { kind: 'turn', page: desk.scene!.shown, atSamples: 0 },
    ];
    const opened = await openJournal();
    recorder = await TakeRecorder.begin(opened, source, take, opening);
    partsHere.value = partsSafe.value = 0;
    sendAlong(opened, { ...take, ended: true }, recorder, letGo);
    recorder.unfinished = () => wetStrokes().map((wet, i) => unfinishedMark(wet, i));
    // The meter falls slowly, so that it can be read.
    recorder.onLevel = (level) => (peakDb.value = Math.max(level.peakDb, peakDb.value - METER_FALL_DB));
    recorder.onEncoderFailed = (message) => {
      problem.value = `The voice can no longer be recorded (${message}). Stop and begin again; nothing so far is lost.`;
    };
    source.onLost = () => void microphoneLost();
    desk.sendTo((change, performanceMs) => recorder?.mark(change, performanceMs));
    desk.lay(desk.scene!);
    state.value = 'recording';
    ticking = window.setInterval(() => (elapsedSamples.value = recorder?.lengthSamples ?? 0), 100);
  }

  function unfinishedMark(wet: WetStroke, i: number): Mark {
    const stroke = newStroke({
      id: nanoid(12) as PieceId,
      z: desk.nextZ() + i,
      pen: wet.pen,
      points: InkPoints.from(wet.samples),
    });
    return recorder!.timed({ kind: 'ink', page: desk.scene!.shown, stroke }, wet.beganMs);
  }

  function sendAlong(opened: Journal, take: JournalTake, from: TakeRecorder, letGo: () => void): void {
    uploader = new Uploader(opened, take);
    uploader.onState = (now) => (upload.value = now);
    uploader.onSafe = (parts) => (partsSafe.value = parts);
    from.onPart = (n) => {
      partsHere.value = n + 1;
      uploader?.added(n);
    };
    void uploader
      .run()
      .then((fresh) => fresh && arrived(fresh))
      .catch((error: Error) => (problem.value = `${error.message} The recording stays safe on this device.`))
      .finally(letGo);
  }

  /** The server has the take: what it says of the lesson now holds, unless another take is going on. */
  async function arrived(fresh: LessonDocument): Promise<void> {
    if (lesson.document?.id !== fresh.id || state.value !== 'idle') return;
    await lesson.acceptTake(fresh);
  }

  async function microphoneLost(): Promise<void> {
    if (state.value === 'recording') await pause();
    problem.value =
      'The microphone is gone, so the recording is paused. Plug it in again and record on, or stop: all so far is kept.';
  }

  async function pause(): Promise<void> {
    if (state.value !== 'recording') return;
    state.value = 'paused';
    await recorder!.pause();
    elapsedSamples.value = recorder!.lengthSamples;
    peakDb.value = -90;
  }

  function resume(): void {
    if (state.value !== 'paused') return;
    problem.value = null;
    recorder!.resume();
    state.value = 'recording';
  }

  /** Ends the take. It can be played at once, whether or not the server has it already. */
  async function stop(): Promise<void> {
    if (!isOn.value || !recorder) return;
    state.value = 'ending';
    clearInterval(ticking);
    const ended = recorder;
    await ended.end(lesson.document!.id);
    const parts = (await (await openJournal()).parts(ended.id)).map(({ bytes }) => decodeTakePart(bytes));
    const { lengthSamples, marks, sound } = assembleTake(parts, true);
    const blob = sound.length > 0 ? new Blob([sound], { type: 'audio/ogg' }) : null;
    if (lengthSamples > 0) lesson.addTake({ id: ended.id, lengthSamples, marks, sound: null }, blob);
    recorder = null;
    state.value = 'idle';
    elapsedSamples.value = 0;
    peakDb.value = -90;
    lesson.layDesk(NO_HISTORY);
    uploader!.ended(ended.partCount);
  }

  /** Hands over what this device still holds of the lesson's recordings, such as one a crash cut off. */
  async function recover(id: LessonId): Promise<void> {
    if (!window.isSecureContext) return;
    const opened = await openJournal();
    for (const take of await opened.takes()) {
      if (take.lesson !== id) continue;
      const free = await navigator.locks.request(recordingLock(take.id), { ifAvailable: true }, async (lock) => {
        if (lock) await handOver(opened, take);
        return lock !== null;
      });
      if (!free) found.value = 'This lesson is being recorded in another window.';
    }
  }

  async function handOver(opened: Journal, take: JournalTake): Promise<void> {
    const parts = await opened.parts(take.id);
    if (parts.length === 0) return opened.forget(take.id);
    const sender = new Uploader(opened, take, parts.length);
    uploader = sender;
    sender.onState = (now) => (upload.value = now);
    sender.ended(parts.length);
    const fresh = await sender.run();
    if (!fresh) return;
    await lesson.accept(fresh);
    lesson.layDesk();
    const seconds = Math.round(decodeTakePart(parts.at(-1)!.bytes).toSamples / CLOCK_HZ);
    const what = take.ended ? 'was still on its way to the server' : 'had broken off here';
    found.value = `A recording of ${seconds} seconds ${what}. It is saved, and plays at the end of the trail.`;
  }

  /** Takes that broke off on a device that is not here: keeps what the server has of them. */
  async function keepAbandoned(take: TakeId): Promise<void> {
    await lesson.accept(await api.endTake(take, { parts: 0, recover: true }));
    lesson.layDesk();
  }

  const retryUpload = () => uploader?.retry();
  window.addEventListener('online', retryUpload);
  // Leaving in mid-recording asks first.
  window.addEventListener('beforeunload', (event) => {
    if (isOn.value || secondsToSend.value > 0) event.preventDefault();
  });

  return {
    state,
    countdown,
    choice,
    elapsedSamples,
    peakDb,
    problem,
    found,
    upload,
    partsHere,
    partsSafe,
    deviceFull,
    isOn,
    secondsToSend,
    watchWet,
    start,
    cancelCountdown,
    pause,
    resume,
    stop,
    recover,
    keepAbandoned,
    retryUpload,
  };
});
