import { USUAL_HANDOUT } from '@kite-trail/core/handout/settings';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { NO_IMAGES } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { SvgSurface } from '@kite-trail/core/paint/vector/svg-surface';
import { samplesToMs, samplesToSeconds } from '@kite-trail/core/trail/clock';
import { stepPages } from '@kite-trail/core/trail/steps';
import { makeHandout } from '@kite-trail/web/workers/handout/handout';
import { WordSetter } from '@kite-trail/web/workers/handout/set-words';
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { SharedLesson } from './lesson';
import { latinTypeface } from './typefaces';

const noFiles = () => Promise.reject(new Error('This lesson has no pictures.'));

/** A hand-out of a lesson without pictures, step by step, with what is said beside each page. */
export function handoutOf({ id, title, language, address, payload, timeline, captions }: SharedLesson) {
  const steps = stepPages(timeline.trail);
  const pages = steps.map(({ n, isAfter, fromSamples, said }) => {
    const label = isAfter ? `Step ${n}` : 'Before';
    const [fromMs, toMs] = [said.fromSamples, said.toSamples].map(samplesToMs);
    const words = captions.filter(({ startMs }) => fromMs <= startMs && startMs < toMs);
    return {
      ...{ label, bookmark: isAfter ? label : null, beginsSheet: false },
      words: words.map(({ text }) => text.replace(/\s+/g, ' ')).join(' '),
      address: `${address}#t=${Math.floor(samplesToSeconds(fromSamples))}`,
    };
  });
  return makeHandout(
    {
      ...{ lesson: id, title, language, payload, pages, at: steps },
      settings: { ...USUAL_HANDOUT, moments: 'steps', perSheet: 2, beside: 'words' },
    },
    {
      files: { file: noFiles, drawn: noFiles },
      words: new WordSetter(latinTypeface),
      passed: async () => {},
      onDone: () => {},
    },
  );
}

/** A page without pictures, painted so wide. */
export function painted(state: PageState, widthPx: number): Canvas {
  const heightPx = Math.round((widthPx * state.page.heightPt) / state.page.widthPt);
  const canvas = createCanvas(widthPx, heightPx);
  paintPage(canvas.getContext('2d'), state, fitPage(state.page, { widthPx, heightPx }), NO_IMAGES);
  return canvas;
}

/** A page without pictures as SVG. */
export function drawnAsSvg(state: PageState, title: string): string {
  const { widthPt: widthPx, heightPt: heightPx } = state.page;
  const surface = new SvgSurface(widthPx, heightPx, title);
  paintPage(surface, state, fitPage(state.page, { widthPx, heightPx }), NO_IMAGES);
  return surface.document;
}
