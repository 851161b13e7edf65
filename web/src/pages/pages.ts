import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import {
  blankPage,
  pageRect,
  SQUARED_PAPER,
  withRoomStep,
  type Page,
  type Paper,
  type Room,
} from '@kite-trail/core/lesson/page';
import type { RectPt } from '@kite-trail/core/lesson/rect';
import type { Piece } from '@kite-trail/core/lesson/piece';
import { pageStateOf, type PageState } from '@kite-trail/core/lesson/scene';
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import { useKeptSetting } from '../device/kept-setting';
import { useDesk } from '../lesson/desk';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';
import { api } from '../server/api';

const newPageId = () => nanoid(12) as PageId;
const newPieceId = () => nanoid(12) as PieceId;

/** What can be done with a lesson's pages. All of it can be undone, and is recorded while a take goes on. */
export const usePages = ofLesson(() => {
  const desk = useDesk();
  const lesson = useLesson();
  /** The paper this teacher usually takes, as JSON. */
  const usual = useKeptSetting('kite-trail-paper', JSON.stringify(SQUARED_PAPER));

  /** Whether pages of this lesson grow downwards as they are written on; kept on this device. */
  const growing = useKeptSetting<'yes' | 'no'>(() => `kite-trail-pages-grow-${lesson.document?.id}`, 'no');
  const grows = computed({
    get: () => growing.value === 'yes',
    set: (yes: boolean) => (growing.value = yes ? 'yes' : 'no'),
  });

  const shown = (): PageState => pageStateOf(desk.scene!, desk.scene!.shown)!;
  /** Without a picture: that one belongs to its lesson. */
  const usualPaper = (): Paper => ({ ...(JSON.parse(usual.value) as Paper), picture: null });

  /** The paper this lesson is written on: of the page shown, or, where that is a PDF's, of another one. */
  function paperHere(): Paper {
    const blank = [shown(), ...desk.scene!.pages].find(({ page }) => !page.sheet);
    return blank?.page.paper ?? usualPaper();
  }

  /** A blank page after the one shown, as large, on the paper of this lesson. */
  function addBlank(): void {
    const { page } = shown();
    const size = page.sheet ?? page;
    insert([{ page: blankPage(newPageId(), size, paperHere()), pieces: [] }]);
  }

  /** The sides that pages had before they were given room at this visit. */
  const firstSides = new Map<PageId, RectPt>();

  /** Gives the page shown a step more room on a side, or takes back a step of what it was given. */
  function giveRoom(side: keyof Room, step: 'more' | 'less'): void {
    const { page } = shown();
    const { sheet } = page;
    const first = sheet
      ? { left: 0, top: 0, right: sheet.widthPt, bottom: sheet.heightPt }
      : (firstSides.get(page.id) ?? pageRect(page));
    firstSides.set(page.id, first);
    alter(withRoomStep(page, first, side, step));
  }

  /** Makes the page shown of another size: what it was before is of no account. */
  function resize(size: { widthPt: number; heightPt: number }): void {
    const { page } = shown();
    firstSides.delete(page.id);
    alter({ ...blankPage(page.id, size, page.paper), sheet: page.sheet, scale: page.scale });
  }

  /**
   * Puts pages in after the one shown, and turns to the first of them.
   * @param insteadOf a page that goes in the same step
   */
  function insert(states: readonly PageState[], insteadOf: PageId | null = null): void {
    let after = desk.scene!.shown;
    const changes: Change[] = [];
    for (const { page, pieces, unread } of states) {
      changes.push({ kind: 'add-page', page, after });
      const kept = unread ? { unread } : {};
      if (pieces.length > 0 || unread) changes.push({ kind: 'place', page: page.id, pieces, ...kept });
      after = page.id;
    }
    if (states.length > 0) changes.push({ kind: 'turn', page: states[0].page.id });
    if (insteadOf) changes.push({ kind: 'drop-page', page: insteadOf });
    desk.changeTogether(changes);
  }

  function duplicate(id: PageId, withInk: boolean): void {
    const state = pageStateOf(desk.scene!, id);
    if (!state) return;
    desk.turnTo(id);
    const kept = withInk ? state.pieces : state.pieces.filter((piece) => piece.kind !== 'stroke');
    insert([copyOf({ page: state.page, pieces: kept })]);
  }

  function drop(id: PageId): void {
    desk.change({ kind: 'drop-page', page: id });
  }

  function move(id: PageId, after: PageId | null): void {
    desk.change({ kind: 'move-page', page: id, after });
  }

  function alter(page: Page): void {
    desk.change({ kind: 'alter-page', page });
  }

  /** Puts the page shown, or all pages, on a paper, which is the usual one from now on. */
  function takePaper(paper: Paper, forAll: boolean): void {
    usual.value = JSON.stringify(paper);
    const states = forAll ? desk.scene!.pages : [shown()];
    desk.changeTogether(states.map(({ page }): Change => ({ kind: 'alter-page', page: { ...page, paper } })));
  }

  /** Goes to the first, last, next or previous page, or to one by its number. */
  function goTo(where: 'first' | 'last' | 'next' | 'previous' | number): void {
    const { pages } = desk.scene!;
    const at = pages.findIndex(({ page }) => page.id === desk.scene!.shown);
    const places = { first: 0, last: pages.length - 1, next: at + 1, previous: at - 1 };
    const state = pages[typeof where === 'number' ? where - 1 : places[where]];
    if (state) desk.turnTo(state.page.id);
  }

  /** Lets a page stand for the lesson wherever its picture is shown. It is said about the lesson, so no step of undo. */
  async function letStand(page: PageId): Promise<void> {
    const { id, about } = lesson.document!;
    await api.sayAbout(id, { ...about, coverPage: page });
    await lesson.refresh();
  }

  return {
    grows,
    shown,
    usualPaper,
    addBlank,
    insert,
    duplicate,
    drop,
    move,
    giveRoom,
    resize,
    alter,
    takePaper,
    goTo,
    letStand,
  };
});

/** The same page anew: copies have ids of their own. */
export function copyOf({ page, pieces, ...rest }: PageState): PageState {
  const copies = pieces.map((piece): Piece => ({ ...piece, id: newPieceId() }));
  return { ...rest, page: { ...page, id: newPageId() }, pieces: copies };
}
