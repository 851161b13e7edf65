import {
  PDFDocument,
  PDFName,
  StandardFonts,
  type PDFDict,
  type PDFFont,
  type PDFPage,
  type PDFRef,
} from '@cantoo/pdf-lib';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import { layoutSheet, wordColumns, wordsHead, type BoxPt, type Cell } from '@kite-trail/core/handout/layout';
import type { HandoutSettings } from '@kite-trail/core/handout/settings';
import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { PdfSurface } from '@kite-trail/core/paint/vector/pdf-surface';
import { pageAt, type PageAt } from '@kite-trail/core/trail/page-at';
import QRCode from 'qrcode';
import { EmbeddedImages, type HandoutFiles } from './embedded-images';
import { addLinks, linksOf, placed, type WebLink } from './links';
import { addOutline, type Bookmark } from './outline';
import { linesWithin, type WordSetter } from './set-words';
import { typedText } from './typed-text';

/** A page of the hand-out, in the order in which they are handed out. */
export interface HandoutPage {
  /** What it is, below it. */
  label: string;
  /** What is said meanwhile. */
  words: string;
  /** Where its moment can be watched; `null` where it cannot. */
  address: string | null;
  /** A bookmark leads to the sheet it is on; `null` where none does. */
  bookmark: string | null;
  /** It comes on a sheet of its own with those that follow. */
  beginsSheet: boolean;
}

export interface Handout {
  lesson: LessonId;
  title: string;
  /** A language tag (BCP 47), or nothing. */
  language: string;
  settings: HandoutSettings;
  /** The pages as they are to be seen, or the trail in which `at` finds them: a payload (`core/formats/payload`). */
  payload: Uint8Array;
  at: readonly PageAt[] | null;
  pages: readonly HandoutPage[];
}

/** A page, drawn once, to be put on a sheet. */
interface Drawn {
  ref: PDFRef;
  widthPt: number;
  heightPt: number;
  /** On the page, from its lower left corner, in points. */
  links: readonly WebLink[];
}

const FONT = 'F0';
const HAIRLINE = '0.82 0.8 0.75 RG 0.5 w';
const NOTE_LINE_PT = 22;
const LABEL_SIZE_PT = 9;
const WORDS_SIZE_PT = 10;
const CODE_BORDER = 2;

/** What a hand-out is made with. */
export interface HandoutMeans {
  files: HandoutFiles;
  words: WordSetter;
  /** Settles when it may go on. */
  passed(): Promise<void>;
  /** Hears how much is done, from 0 to 1. */
  onDone(done: number): void;
}

/** Makes a hand-out, a PDF. @throws Error with a message for the teacher */
export async function makeHandout(task: Handout, means: HandoutMeans): Promise<Uint8Array<ArrayBuffer>> {
  const { title, language, settings } = task;
  const { files, words: setter, passed, onDone } = means;
  const { states, pages } = pagesThere(task);
  const document = await PDFDocument.create();
  document.setTitle(title, { showInWindowTitleBar: true });
  document.setProducer('Kite Trail');
  document.setCreator('Kite Trail');
  if (language) document.setLanguage(language);
  const font = await document.embedFont(StandardFonts.Helvetica);
  const images = new EmbeddedImages(document, files);
  const aspect = Math.max(...states.map(({ page }) => page.widthPt / page.heightPt));
  const bookmarks: Bookmark[] = [];
  for (const onSheet of sheetsOf(pages, settings.perSheet)) {
    const layout = layoutSheet(settings, settings.perSheet === 1 ? aspectOf(states[onSheet[0]]) : aspect);
    const page = document.addPage([layout.widthPt, layout.heightPt]);
    const sheet = new Sheet(document, page, font);
    const draw = (state: PageState) => drawn(document, state, images, font);
    const left: { label: string; words: string }[] = [];
    for (const [n, at] of onSheet.entries()) {
      await passed();
      const [cell, { label, words, address, bookmark }] = [layout.cells[n], pages[at]];
      sheet.put(await draw(states[at]), cell, address);
      if (cell.label) sheet.place(await draw(await labelOf(setter, label, cell.label)), cell.label);
      if (cell.beside && settings.beside === 'lines') sheet.rule(cell.beside);
      if (cell.beside && settings.beside === 'words') {
        const { here, rest } = await fitting(setter, words, cell.beside);
        if (here.length > 0) sheet.place(await draw(await setter.pageOfLines(here, WORDS_SIZE_PT)), cell.beside);
        if (rest) left.push({ label, words: rest });
      }
      if (bookmark !== null) bookmarks.push({ title: bookmark, page: page.ref });
      onDone((at + 1) / states.length);
    }
    sheet.finish();
    for (const { label, words } of left) {
      for (let rest = words; rest !== '';) {
        const next = new Sheet(document, document.addPage([layout.widthPt, layout.heightPt]), font);
        const head = wordsHead(layout);
        next.place(await draw(await labelOf(setter, `${label}, continued`, head)), head);
        for (const column of wordColumns(layout)) {
          const found = await fitting(setter, rest, column);
          if (found.here.length > 0)
            next.place(await draw(await setter.pageOfLines(found.here, WORDS_SIZE_PT)), column);
          rest = found.rest;
        }
        next.finish();
      }
    }
  }
  addOutline(document, bookmarks);
  return (await document.save()) as Uint8Array<ArrayBuffer>;
}

/** Pages with what they look like; those that are not there at their moment are left out. */
function pagesThere({ payload, at, pages }: Handout): { states: readonly PageState[]; pages: readonly HandoutPage[] } {
  const decoded = decodePayload(payload);
  if (!at) return { states: decoded.base.pages, pages };
  const timeline = timelineOf(decoded);
  const states = at.map((one) => pageAt(timeline, one));
  return { states: states.filter((one) => one !== undefined), pages: pages.filter((_, n) => states[n] !== undefined) };
}

/** What of a text a box has room for, line by line, and the rest of it. */
async function fitting(
  words: WordSetter,
  text: string,
  { widthPt, heightPt }: BoxPt,
): Promise<{ here: string[]; rest: string }> {
  const lines = await words.brokenInto(text, WORDS_SIZE_PT, widthPt);
  const room = linesWithin(WORDS_SIZE_PT, heightPt);
  return { here: lines.slice(0, room), rest: lines.slice(room).join(' ') };
}

/** A label is one line: of a longer one, the beginning. */
async function labelOf(words: WordSetter, label: string, { widthPt }: BoxPt): Promise<PageState> {
  const lines = await words.brokenInto(label, LABEL_SIZE_PT, widthPt);
  return words.pageOfLines(lines.slice(0, 1), LABEL_SIZE_PT);
}

/** Which pages lie on which sheet, by their numbers. */
function sheetsOf(pages: readonly HandoutPage[], perSheet: number): number[][] {
  const sheets: number[][] = [];
  pages.forEach(({ beginsSheet }, n) => {
    const last = sheets.at(-1);
    if (!last || beginsSheet || last.length === perSheet) sheets.push([n]);
    else last.push(n);
  });
  return sheets;
}

const aspectOf = ({ page }: PageState): number => page.widthPt / page.heightPt;

/** Draws a page as a form of the document (ISO 32000-1, section 8.10). */
async function drawn(document: PDFDocument, state: PageState, images: EmbeddedImages, font: PDFFont): Promise<Drawn> {
  const { page, pieces } = state;
  const { leftPt, topPt, widthPt, heightPt, sheet, paper } = page;
  if (sheet) await images.gather(sheet.asset, sheet.pageIndex);
  if (paper.picture) await images.gather(paper.picture, null);
  for (const piece of pieces) if (piece.kind === 'picture') await images.gather(piece.asset, null);
  const surface = new PdfSurface(heightPt);
  const used = new Map<string, PDFRef>();
  const finding = {
    find: (...[asset, pageIndex]: Parameters<EmbeddedImages['find']>) => {
      const found = images.find(asset, pageIndex);
      if (found) used.set(found.name, found.ref);
      return found;
    },
  };
  paintPage(surface, state, { leftPx: -leftPt, topPx: -topPt, pxPerPt: 1 }, finding);
  for (const line of typedText(state, FONT)) surface.write(line);
  const resources = document.context.obj({
    Font: { [FONT]: font.ref },
    XObject: Object.fromEntries(used),
    ExtGState: Object.fromEntries(
      surface.blendsUsed.map(({ name, opacity, blend }) => [
        name,
        { ca: opacity, CA: opacity, BM: blend === 'normal' ? 'Normal' : blend === 'multiply' ? 'Multiply' : 'Screen' },
      ]),
    ),
  }) as PDFDict;
  const form = document.context.flateStream(surface.content, {
    Type: 'XObject',
    Subtype: 'Form',
    BBox: [0, 0, widthPt, heightPt],
    Resources: resources,
    Group: { Type: 'Group', S: 'Transparency' },
  });
  return { ref: document.context.register(form), widthPt, heightPt, links: linksOn(state, images) };
}

/** The links of a page: those of the PDF's page beneath it, and those of its pieces. */
function linksOn({ page, pieces }: PageState, images: EmbeddedImages): WebLink[] {
  const { sheet, leftPt, topPt, heightPt } = page;
  const found = sheet && images.find(sheet.asset, sheet.pageIndex);
  const printed: WebLink[] = [];
  if (sheet && found?.source) {
    const [across, up] = [sheet.widthPt / found.widthPx, sheet.heightPt / found.heightPx];
    const toPage = [across, 0, 0, up, -leftPt, heightPt + topPt - sheet.heightPt];
    for (const link of linksOf(found.source.page, found.source.matrix)) {
      printed.push({ ...link, rect: placed(link.rect, toPage) });
    }
  }
  const ofPieces = pieces.flatMap((piece): WebLink[] => {
    if (piece.link?.to !== 'web') return [];
    const { left, top, right, bottom } = pieceBounds(piece);
    const up = (y: number) => heightPt - (y - topPt);
    return [{ rect: [left - leftPt, up(bottom), right - leftPt, up(top)], address: piece.link.url }];
  });
  return [...printed, ...ofPieces];
}

/** A sheet that is being filled. */
class Sheet {
  private readonly lines: string[] = [];
  private readonly forms = new Map<string, PDFRef>();

  constructor(
    private readonly document: PDFDocument,
    private readonly sheet: PDFPage,
    private readonly font: PDFFont,
  ) {}

  /** Puts a page where it is to lie, with a line around it and a code that leads to its moment. */
  put(page: Drawn, cell: Cell, address: string | null): void {
    const scale = Math.min(cell.page.widthPt / page.widthPt, cell.page.heightPt / page.heightPt);
    const [width, height] = [page.widthPt * scale, page.heightPt * scale];
    const left = cell.page.leftPt + (cell.page.widthPt - width) / 2;
    const bottom = this.up(cell.page.topPt + height);
    const matrix = [scale, 0, 0, scale, left, bottom];
    this.show(page, matrix);
    this.lines.push(
      `q ${HAIRLINE} ${left.toFixed(2)} ${bottom.toFixed(2)} ${width.toFixed(2)} ${height.toFixed(2)} re S Q`,
    );
    addLinks(
      this.document,
      this.sheet,
      page.links.map((link) => ({ ...link, rect: placed(link.rect, matrix) })),
    );
    if (cell.code && address) this.code(address, cell.code);
  }

  /** Puts words at the upper left corner of a box, as large as they are. */
  place(words: Drawn, { leftPt, topPt }: BoxPt): void {
    this.show(words, [1, 0, 0, 1, leftPt, this.up(topPt + words.heightPt)]);
  }

  private show({ ref }: Drawn, matrix: readonly number[]): void {
    const name = `P${this.forms.size}`;
    this.forms.set(name, ref);
    this.lines.push('q', `${matrix.map((value) => value.toFixed(5)).join(' ')} cm`, `/${name} Do`, 'Q');
  }

  finish(): void {
    const { context } = this.document;
    this.sheet.node.addContentStream(context.register(context.flateStream(this.lines.join('\n'))));
    for (const [name, ref] of this.forms) this.sheet.node.setXObject(PDFName.of(name), ref);
    this.sheet.node.setFontDictionary(PDFName.of(FONT), this.font.ref);
  }

  private up(topPt: number): number {
    return this.sheet.getHeight() - topPt;
  }

  /** Lines to write on. */
  rule({ leftPt, topPt, widthPt, heightPt }: BoxPt): void {
    for (let y = topPt + NOTE_LINE_PT; y <= topPt + heightPt; y += NOTE_LINE_PT) {
      const at = this.up(y).toFixed(2);
      this.lines.push(`q ${HAIRLINE} ${leftPt.toFixed(2)} ${at} m ${(leftPt + widthPt).toFixed(2)} ${at} l S Q`);
    }
  }

  /** A code that leads to an address (ISO/IEC 18004), with the address as a link upon it. */
  private code(address: string, { leftPt, topPt, widthPt }: BoxPt): void {
    const { size, data } = QRCode.create(address, { errorCorrectionLevel: 'M' }).modules;
    const side = widthPt / (size + 2 * CODE_BORDER);
    const squares: string[] = [];
    for (let i = 0; i < size * size; i++) {
      if (data[i] === 0) continue;
      const [column, row] = [i % size, Math.floor(i / size)];
      const x = leftPt + (CODE_BORDER + column) * side;
      const y = this.up(topPt + (CODE_BORDER + row + 1) * side);
      squares.push(`${x.toFixed(3)} ${y.toFixed(3)} ${side.toFixed(3)} ${side.toFixed(3)} re`);
    }
    this.lines.push('q 0.12 0.16 0.27 rg', ...squares, 'f Q');
    const rect: WebLink['rect'] = [leftPt, this.up(topPt + widthPt), leftPt + widthPt, this.up(topPt)];
    addLinks(this.document, this.sheet, [{ rect, address }]);
  }
}
