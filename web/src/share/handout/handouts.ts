import { encodePayload } from '@kite-trail/core/formats/payload';
import { handoutSettings, USUAL_HANDOUT, type HandoutSettings } from '@kite-trail/core/handout/settings';
import { pageStateOf, sceneOf, shownPage, type PageState } from '@kite-trail/core/lesson/scene';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { fileNameOf } from '../../device/file-name';
import { useKeptJson } from '../../device/kept-setting';
import { useDesk } from '../../lesson/desk';
import { useLesson } from '../../lesson/lesson';
import { ofLesson } from '../../lesson/lesson-scope';
import { clockText } from '../../look/time';
import { handoutWork } from '../../making/handout-work';
import { useMakings } from '../../making/makings';
import { watchUrl } from '../../server/api';
import type { HandoutPage } from '../../workers/handout/handout.worker';
import { useFilmParts } from '../films/film-parts';

/** By this name the queue knows the hand-outs of a lesson. */
export const HANDOUT = 'handout';

interface Shown extends HandoutPage {
  state: PageState;
}

/** What is printed of the lesson, to be handed out. */
export const useHandouts = ofLesson(() => {
  const lesson = useLesson();
  const desk = useDesk();
  const makings = useMakings();
  const parts = useFilmParts();
  const settings = useKeptJson('kite-trail-handout', handoutSettings, USUAL_HANDOUT);

  const addressAt = (samples: number | null): string | null => {
    const link = lesson.document?.link;
    if (!link) return null;
    return watchUrl(link.token) + (samples ? `#t=${Math.floor(samplesToSeconds(samples))}` : '');
  };

  /** When a page is first shown in the trail, or `null` where it never is. */
  function firstShown(state: PageState): number | null {
    const { timeline } = lesson;
    if (!timeline || lesson.lengthSamples === 0) return null;
    if (timeline.base.shown === state.page.id) return 0;
    return timeline.trail.marks.find((mark) => mark.kind === 'turn' && mark.page === state.page.id)?.atSamples ?? null;
  }

  function asTheyEnd(): Shown[] {
    return desk.scene!.pages.map((state, n) => {
      const label = `Page ${n + 1}`;
      return { state, label, bookmark: label, address: addressAt(firstShown(state)), beginsSheet: false };
    });
  }

  function byChapter(): Shown[] {
    return parts.chapterStretches.map(({ title, stretch: { fromSamples, toSamples } }) => ({
      state: shownPage(lesson.timeline!.at(Math.max(fromSamples, toSamples - 1)).scene),
      label: `${title} · ${clockText(fromSamples)}`,
      bookmark: title,
      address: addressAt(fromSamples),
      beginsSheet: false,
    }));
  }

  /** A page to fill in: as it was prepared, or without ink where it came about while recording. */
  function blank(state: PageState): PageState {
    const { recorded, lengthSamples } = lesson;
    const prepared = recorded && lengthSamples > 0 ? pageStateOf(recorded.base, state.page.id) : null;
    return prepared ?? { ...state, pieces: state.pieces.filter(({ kind }) => kind !== 'stroke') };
  }

  function pagesFor({ moments, ink }: HandoutSettings): Shown[] {
    const isByChapter = moments === 'chapters' && lesson.lengthSamples > 0;
    const withInk = isByChapter ? byChapter() : asTheyEnd();
    if (ink === 'with') return withInk;
    // Chapters of one page would be the same blank page.
    const seen = new Set<string>();
    const pages = withInk.filter(({ state }) => !seen.has(state.page.id) && seen.add(state.page.id));
    const blanks = pages.map((one) => ({ ...one, state: blank(one.state) }));
    if (ink === 'without') return blanks;
    const key = withInk.map((one, n) => ({
      ...one,
      label: `${one.label} · key`,
      bookmark: `${one.bookmark} · key`,
      beginsSheet: n === 0,
    }));
    return [...blanks, ...key];
  }

  function make(asked: HandoutSettings): void {
    const { id, title, about } = lesson.document!;
    const shown = pagesFor(asked);
    const payload = encodePayload({
      base: sceneOf(shown.map(({ state }) => state)),
      trail: { lengthSamples: 0, marks: [] },
    });
    const pages = shown.map(({ state: _, ...page }) => page);
    const hasCodes = asked.hasCodes && pages.some(({ address }) => address !== null);
    const settings = { ...asked, hasCodes };
    const task = { lesson: id, title, language: about.language, settings, payload, pages };
    makings.add(handoutWork(HANDOUT, fileNameOf(title, '.pdf'), task));
  }

  return { settings, make };
});
