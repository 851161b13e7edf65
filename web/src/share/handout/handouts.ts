import { encodePayload } from '@kite-trail/core/formats/payload';
import { handoutSettings, USUAL_HANDOUT, type HandoutSettings } from '@kite-trail/core/handout/settings';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { pageStateOf, sceneOf, shownPage, type PageState } from '@kite-trail/core/lesson/scene';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import type { Stretch } from '@kite-trail/core/trail/edit';
import { withoutStrokes, type PageAt } from '@kite-trail/core/trail/page-at';
import { pageParts } from '@kite-trail/core/trail/page-part';
import { stepPages } from '@kite-trail/core/trail/steps';
import { fileNameOf } from '../../device/file-name';
import { useKeptJson } from '../../device/kept-setting';
import { useDesk } from '../../lesson/desk';
import { usePlaced } from '../../lesson/edition/placed';
import { useLesson } from '../../lesson/lesson';
import { ofLesson } from '../../lesson/lesson-scope';
import { clockText } from '../../look/time';
import { handoutWork } from '../../making/handout-work';
import { useMakings } from '../../making/makings';
import { watchUrl } from '../../server/api';
import type { Handout, HandoutPage } from '../../workers/handout/handout';
import { useFilmParts } from '../films/film-parts';

/** By this name the queue knows the hand-outs of a lesson. */
export const HANDOUT = 'handout';

interface Shown extends HandoutPage {
  /** The page as it is on the desk, or at a moment of the trail, which is found out away from the screen. */
  seen: PageState | PageAt;
}

const isAt = (seen: Shown['seen']): seen is PageAt => 'atSamples' in seen;
const pageIdOf = ({ seen }: Shown): PageId => (isAt(seen) ? seen.page : seen.page.id);

/** What is printed of the lesson, to be handed out. */
export const useHandouts = ofLesson(() => {
  const lesson = useLesson();
  const desk = useDesk();
  const makings = useMakings();
  const parts = useFilmParts();
  const placed = usePlaced();
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

  /** Says what is said in stretches of the trail; nothing where that is not wanted. */
  function teller(isWanted: boolean): (stretches: readonly Stretch[]) => string {
    const cues = isWanted ? placed.cuesOf(lesson.programme) : [];
    return (stretches) =>
      cues
        .filter(({ startSamples }) =>
          stretches.some(({ fromSamples, toSamples }) => fromSamples <= startSamples && startSamples < toSamples),
        )
        .map(({ text }) => text.replace(/\s+/g, ' ').trim())
        .join(' ');
  }

  function asTheyEnd(wordsIn: ReturnType<typeof teller>): Shown[] {
    const { timeline, lengthSamples } = lesson;
    const shown = timeline && lengthSamples > 0 ? pageParts(timeline.trail, timeline.base.shown) : [];
    return desk.scene!.pages.map((state, n) => {
      const label = `Page ${n + 1}`;
      return {
        ...{ seen: state, label, bookmark: label, beginsSheet: false },
        address: addressAt(firstShown(state)),
        words: wordsIn(shown.filter(({ page }) => page === state.page.id)),
      };
    });
  }

  function byChapter(wordsIn: ReturnType<typeof teller>): Shown[] {
    return parts.chapterStretches.map(({ title, stretch: { fromSamples, toSamples } }) => {
      const atSamples = Math.max(fromSamples, toSamples - 1);
      const { page } = shownPage(lesson.timeline!.at(atSamples).scene);
      return {
        seen: { page: page.id, atSamples, isBlank: false },
        label: `${title} · ${clockText(fromSamples)}`,
        bookmark: title,
        address: addressAt(fromSamples),
        words: wordsIn([{ fromSamples, toSamples }]),
        beginsSheet: false,
      };
    });
  }

  function byStep(wordsIn: ReturnType<typeof teller>): Shown[] {
    return stepPages(lesson.timeline!.trail).map(({ n, isAfter, fromSamples, said, ...seen }) => {
      const label = `${isAfter ? `Step ${n}` : 'Before'} · ${clockText(fromSamples)}`;
      return {
        ...{ seen, label, bookmark: isAfter ? label : null, beginsSheet: false },
        address: addressAt(fromSamples),
        words: wordsIn([said]),
      };
    });
  }

  /** A page to fill in: as it was prepared, or without ink where it came about while recording. */
  function blank(seen: Shown['seen']): Shown['seen'] {
    if (isAt(seen)) return { ...seen, isBlank: true };
    const { recorded, lengthSamples } = lesson;
    const prepared = recorded && lengthSamples > 0 ? pageStateOf(recorded.base, seen.page.id) : null;
    return prepared ?? withoutStrokes(seen);
  }

  function pagesFor({ moments, ink, beside }: HandoutSettings): Shown[] {
    const wordsIn = teller(beside === 'words');
    const isRecorded = lesson.lengthSamples > 0;
    const byMoment = { end: () => [], chapters: byChapter, steps: byStep }[moments];
    const shown = isRecorded ? byMoment(wordsIn) : [];
    if (isRecorded && moments === 'steps' && shown.length === 0) {
      throw new Error('Nothing was written while this lesson was recorded: there are no steps.');
    }
    const withInk = shown.length > 0 ? shown : asTheyEnd(wordsIn);
    if (ink === 'with') return withInk;
    // Chapters and steps of one page would be the same blank page.
    const seen = new Set<PageId>();
    const pages = withInk.filter((one) => !seen.has(pageIdOf(one)) && seen.add(pageIdOf(one)));
    const blanks = pages.map((one) => ({ ...one, seen: blank(one.seen) }));
    if (ink === 'without') return blanks;
    const key = withInk.map((one, n) => ({
      ...one,
      label: `${one.label} · key`,
      bookmark: one.bookmark && `${one.bookmark} · key`,
      beginsSheet: n === 0,
    }));
    // What is said beside the key would give it away beside what is to be filled in.
    return [...blanks.map((one) => ({ ...one, words: '' })), ...key];
  }

  function make(asked: HandoutSettings): void {
    const { id, title, about } = lesson.document!;
    const shown = pagesFor(asked);
    const pages = shown.map(({ seen: _, ...page }) => page);
    // What no page has takes no room.
    const hasCodes = asked.hasCodes && pages.some(({ address }) => address !== null);
    const hasWords = pages.some(({ words }) => words !== '');
    const beside = asked.beside === 'words' && !hasWords ? 'nothing' : asked.beside;
    const settings = { ...asked, hasCodes, beside };
    const task = { lesson: id, title, language: about.language, settings, pages, ...pagesSeen(shown) };
    makings.add(handoutWork(HANDOUT, fileNameOf(title, '.pdf'), task));
  }

  /** Pages are of the desk, or of the trail, all alike. */
  function pagesSeen(shown: readonly Shown[]): Pick<Handout, 'payload' | 'at'> {
    const seen = shown.map((one) => one.seen);
    const at = seen.filter(isAt);
    if (at.length > 0) return { payload: encodePayload(lesson.timeline!), at };
    const base = sceneOf(seen.filter((one): one is PageState => !isAt(one)));
    return { payload: encodePayload({ base, trail: { lengthSamples: 0, marks: [] } }), at: null };
  }

  return { settings, make };
});
