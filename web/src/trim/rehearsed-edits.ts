import { placeCaptions } from '@kite-trail/core/trail/captions';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { cut } from '@kite-trail/core/trail/edit';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { Timeline } from '@kite-trail/core/trail/timeline';
import { placePrompts } from '@kite-trail/core/trail/prompts';
import { flatten } from '@kite-trail/core/trail/trail';
import { onScopeDispose, watch } from 'vue';
import { Stage } from '../playback/stage';
import { useFiles } from '../lesson/files';
import { idle } from '../device/idle';
import { useLesson } from '../lesson/lesson';
import { useTrimming } from './trimming';
import { useVoices } from '../lesson/voices';
import { drawStrip } from '../trail/trail-drawing';

/** More make no edit faster. */
const REHEARSALS = 16;
const CUT_SAMPLES = secondsToSamples(1);
/** About as large as on a teacher's screen, in CSS pixels. */
const STRIP = { width: 1150, height: 156 };
const PAGE = { width: 900, height: 560 };
/** Nobody sees it. */
const BLACK = () => '#000';

/** How many are still to be had in this window: what is compiled by then serves every lesson. */
let left = REHEARSALS;

/**
 * Edits the trail off screen in idle moments. Browsers compile only what has run often; without it, the first edits of a
 * visit would take twice as long as those that follow. What the teacher has is not touched.
 */
export function useRehearsedEdits(): void {
  const lesson = useLesson();
  const voices = useVoices();
  const trimming = useTrimming();
  const files = useFiles();
  let isOver = false;
  onScopeDispose(() => (isOver = true));

  /** One edit, in two steps that are each too short to be noticed. */
  async function rehearse(stage: Stage, strip: CanvasRenderingContext2D): Promise<void> {
    const { recorded, timeline: earlier, programme: before, lengthSamples, edition } = lesson;
    if (!recorded || !earlier) return;
    const at = Math.round((lengthSamples * left) / (REHEARSALS + 1));
    const programme = cut(before, { fromSamples: at, toSamples: Math.min(at + CUT_SAMPLES, lengthSamples) }, 'keep');
    const trail = flatten(programme, recorded.takes, earlier.trail);
    stage.show(new Timeline(recorded.base, trail, earlier).at(at));
    await idle();
    const lanes = {
      chapters: trimming.chapters,
      cues: placeCaptions(programme, edition.captions),
      prompts: placePrompts(programme, edition.prompts),
    };
    const area = { fromSamples: 0, toSamples: programmeLength(programme), top: 0, ...STRIP, color: BLACK };
    drawStrip(strip, { programme, trail, peaks: voices.peaks }, lanes, area);
  }

  watch(
    () => voices.isListening,
    async (isListening) => {
      if (isListening || left === 0) return;
      const stage = new Stage(canvasOf(PAGE), () => files.images);
      const strip = canvasOf(STRIP).getContext('2d')!;
      for (; left > 0 && !isOver; left--) {
        await idle();
        await rehearse(stage, strip);
      }
    },
    { immediate: true },
  );
}

function canvasOf(size: { width: number; height: number }): HTMLCanvasElement {
  return Object.assign(document.createElement('canvas'), size);
}
