import type { CaptionId } from '@kite-trail/core/lesson/ids';
import { readTimedText, writeSubRip, writeWebVtt } from '@kite-trail/core/formats/timed-text';
import { captionStretches, spreadScript } from '@kite-trail/core/trail/caption-layout';
import { spansBetween, timedText, type Caption, type Cue } from '@kite-trail/core/trail/captions';
import { msToSamples } from '@kite-trail/core/trail/clock';
import { spokenIn } from '@kite-trail/core/trail/quiet';
import { nanoid } from 'nanoid';
import { computed, ref } from 'vue';
import { useEditing } from '../../lesson/edition/editing';
import { useLesson } from '../../lesson/lesson';
import { useTrimming } from '../trimming';
import { useVoices } from '../../lesson/voices';
import { ofLesson } from '../../lesson/lesson-scope';

/** The captions of a lesson: laid out, typed, spread from a script, read from files and written to them. */
export const useCaptions = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const trimming = useTrimming();
  const voices = useVoices();
  const problem = ref<string | null>(null);

  const cues = computed<readonly Cue[]>(() => trimming.cues);
  const filled = computed(() => cues.value.filter(({ text }) => text !== ''));
  const spoken = computed(() => spokenIn(lesson.programme, voices.speechOf));

  const put = (captions: readonly Caption[]) => void editing.change({ captions });

  function made(text: string, fromSamples: number, toSamples: number): Caption[] {
    const spans = spansBetween(lesson.programme, fromSamples, toSamples);
    return spans.length > 0 ? [{ id: nanoid(12) as CaptionId, text, spans }] : [];
  }

  /** Lays out stretches of speech, ready to be filled, wherever there is no caption yet. */
  function layOut(): void {
    const isFree = ({ fromSamples, toSamples }: { fromSamples: number; toSamples: number }) =>
      !cues.value.some((cue) => cue.startSamples < toSamples && cue.endSamples > fromSamples);
    const free = captionStretches(spoken.value).filter(isFree);
    put([...lesson.edition.captions, ...free.flatMap((one) => made('', one.fromSamples, one.toSamples))]);
  }

  function setText(id: CaptionId, typed: string): void {
    const text = typed.trim();
    const { captions } = lesson.edition;
    if (captions.every((one) => one.id !== id || one.text === text)) return;
    put(captions.map((one) => (one.id === id ? { ...one, text } : one)));
  }

  function drop(id: CaptionId): void {
    put(lesson.edition.captions.filter((one) => one.id !== id));
  }

  /** Adds a caption that is read between two moments of the trail. */
  function add(fromSamples: number, toSamples: number): void {
    put([...lesson.edition.captions, ...made('', fromSamples, toSamples)]);
  }

  /** Moves the ends of a caption. */
  function setTimes(id: CaptionId, fromSamples: number, toSamples: number): void {
    const spans = spansBetween(lesson.programme, fromSamples, toSamples);
    if (spans.length > 0) put(lesson.edition.captions.map((one) => (one.id === id ? { ...one, spans } : one)));
  }

  /** Spreads a script over all that is spoken, in the place of the captions there are. */
  function spread(script: string): void {
    const parts = spreadScript(script, spoken.value);
    problem.value = parts.length === 0 ? 'There is no speech in the trail that a script could be spread over.' : null;
    if (parts.length > 0) put(parts.flatMap((one) => made(one.text, one.fromSamples, one.toSamples)));
  }

  /** Reads a WebVTT or SubRip file, in the place of the captions there are. */
  async function bring(file: File): Promise<void> {
    problem.value = null;
    try {
      const read = readTimedText(await file.text());
      const captions = read.flatMap(({ text, startMs, endMs }) => made(text, msToSamples(startMs), msToSamples(endMs)));
      if (captions.length < read.length) {
        const missing = read.length - captions.length;
        problem.value = `${missing} of ${read.length} captions fall where nothing is played, and were left out.`;
      }
      put(captions);
    } catch (error) {
      problem.value = (error as Error).message;
    }
  }

  /** What is filled, as a file's text. */
  const written = (format: 'vtt' | 'srt'): string =>
    (format === 'vtt' ? writeWebVtt : writeSubRip)(filled.value.map(timedText));

  return { problem, cues, filled, layOut, setText, drop, add, setTimes, spread, bring, written };
});
