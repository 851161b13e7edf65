import type { Replay } from '@kite-trail/core/formats/inkml/replay';
import { blankPage, pageRect, sheetPage, type Page } from '@kite-trail/core/lesson/page';
import { fitted, storable } from '@kite-trail/core/lesson/picture';
import { NEW, WHOLE, type Picture } from '@kite-trail/core/lesson/piece';
import type { AssetId, PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { shownPage, type PageState } from '@kite-trail/core/lesson/scene';
import { nanoid } from 'nanoid';
import { onScopeDispose, shallowRef, watch } from 'vue';
import { isPdf } from '../pdf/is-pdf';
import { PasswordNeeded, PdfDocument } from '../pdf/pdf-document';
import { pictureOfScreen } from '../capture/still-pictures';
import { preparePicture, written, type PreparedPicture } from '../pictures/prepare-picture';
import { useDesk } from '../lesson/desk';
import { useDress } from '../lesson/frame/dress';
import { useFiles } from '../lesson/files';
import { useSelection } from '../board/selection/selection';
import { useLesson } from '../lesson/lesson';
import { usePages } from '../pages/pages';
import { usePens } from '../board/pens/pens';
import { useRecordingNow } from '../lesson/recording-now';
import { inkIn, isInkMl } from './ink-files';
import { replayOfInk, useInkTake, type PlacedInk } from './ink-take';
import { useSheetPictures } from './sheet-pictures';
import { useNotices } from '../lesson/notices';
import { ofLesson } from '../lesson/lesson-scope';

const LARGEST_PDF_BYTES = 80 * 2 ** 20;
const MOST_PAGES = 1000;
/** A picture fills at most this share of the page it is brought onto. */
const SHARE_OF_PAGE = 0.6;
/** A picture is shown at this many of its pixels to a point, as long as it fits: about 192 to the inch. */
const PX_PER_PT = 192 / 72;

const WITHOUT_PICTURES = 'This task is done without pictures: write or draw on the page.';

const tooManyPages = (count: number) => new Error(`It has ${count} pages; a lesson takes ${MOST_PAGES} at most.`);

/** A PDF whose pages are being chosen. */
interface PdfChoice {
  pdf: PdfDocument;
  file: File;
}

/** Ink that tells when it was written. */
interface TimedInk {
  file: File;
  placed: PlacedInk[];
  replay: Replay;
}

/** Brings pictures, PDFs and ink into the lesson, from wherever they come. */
export const useBringIn = ofLesson(() => {
  const desk = useDesk();
  const files = useFiles();
  const selection = useSelection();
  const lesson = useLesson();
  const pages = usePages();
  const pens = usePens();
  const recording = useRecordingNow();
  const sheetPictures = useSheetPictures();
  const inkTake = useInkTake();
  const dress = useDress();

  const problem = useNotices().place('problem');
  const notice = useNotices().place('news');
  /** The PDF or the ink that is being read; a large one takes a while. */
  const opening = shallowRef<File | null>(null);
  const choice = shallowRef<PdfChoice | null>(null);
  /** Ink that tells when it was written waits to be told what is to become of it. */
  const timed = shallowRef<TimedInk | null>(null);
  /** A locked PDF waits for its password. */
  const locked = shallowRef<{ file: File; wrong: boolean } | null>(null);

  /** Files that were dropped, pasted or picked. @param at where on the page, if it was on the page */
  async function bring(given: Iterable<File>, at?: { xPt: number; yPt: number }): Promise<void> {
    problem.value = notice.value = null;
    if (!dress.may('pictures')) {
      problem.value = [...given].length > 0 ? WITHOUT_PICTURES : null;
      return;
    }
    for (const file of given) {
      try {
        if (await isPdf(file)) await openPdf(file).then(decided);
        else if (await isInkMl(file)) await bringInk(file);
        else await place(file.name, await preparePicture(file), at);
      } catch (error) {
        problem.value = `${file.name || 'The picture'}: ${(error as Error).message}`;
      }
    }
  }

  /** Brings the ink of a file: of one canvas onto the page shown, of several onto new pages, one each. */
  async function bringInk(file: File): Promise<void> {
    opening.value = file;
    try {
      const canvases = await inkIn(file, { page: pageRect(shownPage(desk.scene!).page), pen: { ...pens.heldPen } });
      if (opening.value !== file) return;
      if (canvases.length > MOST_PAGES) throw tooManyPages(canvases.length);
      const { shown } = desk.scene!;
      const placed = canvases.map((ink): PlacedInk => {
        const isNew = canvases.length > 1 ? blankLike() : null;
        const under = isNew ? 0 : desk.nextZ() - 1;
        const strokes = ink.strokes.map((stroke) => ({ ...stroke, z: under + stroke.z }));
        return { page: isNew?.id ?? shown, isNew, ink: { ...ink, strokes } };
      });
      const replay = recording.isOn ? null : replayOfInk(placed, shown);
      if (!replay) return placeInk(placed);
      timed.value = { file, placed, replay };
      await decided();
    } finally {
      if (opening.value === file) opening.value = null;
    }
  }

  /** Puts ink onto its pages as it is, and takes hold of it where it is one. */
  function placeInk(placed: readonly PlacedInk[]): void {
    const [{ page, isNew, ink }] = placed;
    if (isNew) return pages.insert(placed.map((one) => ({ page: one.isNew!, pieces: one.ink.strokes })));
    const pieces = ink.strokes;
    desk.change({ kind: 'place', page, pieces });
    pens.held = 'hold';
    selection.hold(pieces.map(({ id }) => id));
  }

  /** Does with ink that tells when it was written what is wanted. */
  async function takeInk(how: 'replay' | 'place'): Promise<void> {
    const { file, placed, replay } = timed.value!;
    timed.value = null;
    try {
      if (how === 'place') return placeInk(placed);
      await inkTake.record(replay, placed);
      notice.value = `The lesson now ends with ${file.name}, as it was written.`;
    } catch (error) {
      problem.value = `${file.name}: ${(error as Error).message}`;
    }
  }

  /** A page like the one shown, with nothing on it. */
  function blankLike(): Page {
    const { widthPt, heightPt, paper } = shownPage(desk.scene!).page;
    return blankPage(nanoid(12) as PageId, { widthPt, heightPt }, { ...paper, picture: null });
  }

  /** Takes a picture of a screen or window, and lets the part wanted be chosen. */
  async function takeScreen(): Promise<void> {
    recording.pause();
    try {
      await place('screen.png', await written(await pictureOfScreen(), 'image/png'));
      selection.startCrop();
    } catch (error) {
      // Choosing nothing is no problem.
      if ((error as Error).name !== 'NotAllowedError') problem.value = (error as Error).message;
    }
  }

  /** Puts a picture on the page shown and takes hold of it. */
  async function place(name: string, prepared: PreparedPicture, at?: { xPt: number; yPt: number }): Promise<void> {
    const asset = await files.add(name, prepared.blob);
    const { page } = shownPage(desk.scene!);
    const picture = pictureOn(page, asset, prepared, desk.nextZ(), at);
    desk.change({ kind: 'place', page: page.id, pieces: [picture] });
    pens.held = 'hold';
    selection.hold([picture.id]);
    if (prepared.reducedFrom) {
      const { widthPx, heightPx } = prepared.reducedFrom;
      notice.value = `This picture was very large (${widthPx} × ${heightPx}); it is kept at ${prepared.widthPx} × ${prepared.heightPx}.`;
    }
  }

  async function openPdf(file: File, password?: string): Promise<void> {
    if (file.size > LARGEST_PDF_BYTES) {
      throw new Error(`A PDF may have ${LARGEST_PDF_BYTES / 2 ** 20} MB at most. Split it, or save it smaller.`);
    }
    recording.pause();
    opening.value = file;
    try {
      const pdf = await PdfDocument.open({ bytes: await file.arrayBuffer() }, password);
      if (opening.value !== file) return pdf.close();
      locked.value = null;
      if (pdf.pageCount > MOST_PAGES) {
        pdf.close();
        throw tooManyPages(pdf.pageCount);
      }
      choice.value = { pdf, file };
    } catch (error) {
      if (!(error instanceof PasswordNeeded)) throw error;
      locked.value = { file, wrong: error.wrong };
    } finally {
      if (opening.value === file) opening.value = null;
    }
  }

  /** Settles when it has been said what is to become of a PDF or of ink: then the next one is asked for. */
  const decided = (): Promise<void> =>
    new Promise((resolve) => {
      const stop = watch(
        [choice, locked, timed],
        (asked) => {
          if (asked.some((one) => one !== null)) return;
          queueMicrotask(() => stop());
          resolve();
        },
        { immediate: true },
      );
    });

  async function unlock(password: string): Promise<void> {
    const { file } = locked.value!;
    try {
      await openPdf(file, password);
    } catch (error) {
      locked.value = null;
      problem.value = `${file.name}: ${(error as Error).message}`;
    }
  }

  function dismiss(): void {
    choice.value?.pdf.close();
    choice.value = null;
    locked.value = null;
    timed.value = null;
    opening.value = null;
  }

  onScopeDispose(dismiss);

  /** Makes pages of the chosen ones of a PDF's, after the page shown. */
  async function takePages(indices: readonly number[]): Promise<void> {
    const { pdf, file } = choice.value!;
    choice.value = null;
    const asset = await files.add(file.name, file);
    files.loader!.adopt(asset, pdf);
    const sizes = await pdf.sizes(indices);
    const states = indices.map((index, n): PageState => ({
      page: sheetPage(nanoid(12) as PageId, { asset, pageIndex: index, ...sizes[n] }),
      pieces: [],
    }));
    pages.insert(states, untouchedPage());
    await sheetPictures.drawMissing();
  }

  /** A new lesson's only page, if nothing was done with it: a PDF then takes its place. */
  function untouchedPage(): PageId | null {
    const [only, ...others] = desk.scene!.pages;
    const isUntouched = others.length === 0 && only.pieces.length === 0 && !only.page.sheet && !lesson.isRecorded;
    return isUntouched && !recording.isOn ? only.page.id : null;
  }

  return {
    problem,
    notice,
    opening,
    choice,
    locked,
    timed,
    bring,
    takeInk,
    takeScreen,
    place,
    unlock,
    dismiss,
    takePages,
  };
});

function pictureOn(
  page: Page,
  asset: AssetId,
  { widthPx, heightPx }: PreparedPicture,
  z: number,
  at?: { xPt: number; yPt: number },
): Picture {
  const rect = pageRect(page);
  const middle = { xPt: (rect.left + rect.right) / 2, yPt: (rect.top + rect.bottom) / 2 };
  const picture = storable({
    ...NEW,
    kind: 'picture',
    id: nanoid(12) as PieceId,
    z,
    asset,
    frame: {
      ...(at ?? middle),
      widthPt: widthPx / PX_PER_PT,
      heightPt: heightPx / PX_PER_PT,
      turnRad: 0,
      mirrored: false,
    },
    crop: WHOLE,
    cutOut: new Float32Array(),
  });
  const most = { widthPt: page.widthPt * SHARE_OF_PAGE, heightPt: page.heightPt * SHARE_OF_PAGE };
  if (picture.frame.widthPt <= most.widthPt && picture.frame.heightPt <= most.heightPt) return picture;
  const { xPt, yPt } = picture.frame;
  return fitted(
    picture,
    {
      left: xPt - most.widthPt / 2,
      right: xPt + most.widthPt / 2,
      top: yPt - most.heightPt / 2,
      bottom: yPt + most.heightPt / 2,
    },
    'page',
  );
}
