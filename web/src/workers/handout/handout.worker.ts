import {
  PDFDocument,
  PDFName,
  StandardFonts,
  type PDFDict,
  type PDFFont,
  type PDFPage,
  type PDFRef,
} from '@cantoo/pdf-lib';
import { decodePayload } from '@kite-trail/core/formats/payload';
import { layoutSheet, type BoxPt, type Cell } from '@kite-trail/core/handout/layout';
import type { HandoutSettings } from '@kite-trail/core/handout/settings';
import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { PdfSurface } from '@kite-trail/core/paint/vector/pdf-surface';
import { expose } from 'comlink';
import QRCode from 'qrcode';
import { Gate } from '../gate';
import { EmbeddedImages } from './embedded-images';
import { addLinks, linksOf, placed, type WebLink } from './links';
import { addOutline, type Bookmark } from './outline';
import { typedText } from './typed-text';

/** A page of the hand-out, in the order in which they are handed out. */
export interface HandoutPage {
  /** What it is, below it. */
  label: string;
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
  /** The pages as they are to be seen: a payload (`core/formats/payload`). */
  payload: Uint8Array;
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
const CODE_BORDER = 2;

const gate = new Gate();

const handout = {
  hold(isHeld: boolean): void {
    gate.hold(isHeld);
  },

  /** @param onDone hears how much is done, from 0 to 1 @throws Error with a message for the teacher */
  async make(task: Handout, onDone: (done: number) => void): Promise<Blob> {
    const { title, language, settings, payload, pages } = task;
    const states = decodePayload(payload).base.pages;
    const document = await PDFDocument.create();
    document.setTitle(title, { showInWindowTitleBar: true });
    document.setProducer('Kite Trail');
    document.setCreator('Kite Trail');
    if (language) document.setLanguage(language);
    const font = await document.embedFont(StandardFonts.Helvetica);
    const letters = new Set(font.getCharacterSet());
    const images = new EmbeddedImages(document, task.lesson);
    const aspect = Math.max(...states.map(({ page }) => page.widthPt / page.heightPt));
    const bookmarks: Bookmark[] = [];
    for (const onSheet of sheetsOf(pages, settings.perSheet)) {
      const layout = layoutSheet(settings, settings.perSheet === 1 ? aspectOf(states[onSheet[0]]) : aspect);
      const page = document.addPage([layout.widthPt, layout.heightPt]);
      const sheet = new Sheet(document, page, font, letters);
      for (const [n, at] of onSheet.entries()) {
        await gate.passed();
        sheet.put(await drawn(document, states[at], images, font), layout.cells[n], pages[at]);
        const { bookmark } = pages[at];
        if (bookmark !== null) bookmarks.push({ title: bookmark, page: page.ref });
        onDone((at + 1) / states.length);
      }
      sheet.finish();
    }
    addOutline(document, bookmarks);
    const bytes = await document.save();
    return new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/pdf' });
  },
};
export type HandoutWorker = typeof handout;

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
    private readonly letters: ReadonlySet<number>,
  ) {}

  put(page: Drawn, cell: Cell, { label, address }: HandoutPage): void {
    const name = `P${this.forms.size}`;
    this.forms.set(name, page.ref);
    const scale = Math.min(cell.page.widthPt / page.widthPt, cell.page.heightPt / page.heightPt);
    const [width, height] = [page.widthPt * scale, page.heightPt * scale];
    const left = cell.page.leftPt + (cell.page.widthPt - width) / 2;
    const bottom = this.up(cell.page.topPt + height);
    const matrix = [scale, 0, 0, scale, left, bottom];
    this.lines.push('q', `${matrix.map((value) => value.toFixed(5)).join(' ')} cm`, `/${name} Do`, 'Q');
    this.lines.push(
      `q ${HAIRLINE} ${left.toFixed(2)} ${bottom.toFixed(2)} ${width.toFixed(2)} ${height.toFixed(2)} re S Q`,
    );
    addLinks(
      this.document,
      this.sheet,
      page.links.map((link) => ({ ...link, rect: placed(link.rect, matrix) })),
    );
    if (cell.notes) this.rule(cell.notes);
    if (cell.label) this.write(label, cell.label);
    if (cell.code && address) this.code(address, cell.code);
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

  private rule({ leftPt, topPt, widthPt, heightPt }: BoxPt): void {
    for (let y = topPt + NOTE_LINE_PT; y <= topPt + heightPt; y += NOTE_LINE_PT) {
      const at = this.up(y).toFixed(2);
      this.lines.push(`q ${HAIRLINE} ${leftPt.toFixed(2)} ${at} m ${(leftPt + widthPt).toFixed(2)} ${at} l S Q`);
    }
  }

  /** Letters that the font has not are left out: it is one that every reader has. */
  private write(text: string, { leftPt, topPt }: BoxPt): void {
    const shown = [...text].filter((letter) => this.letters.has(letter.codePointAt(0)!)).join('');
    const at = `${leftPt.toFixed(2)} ${this.up(topPt + LABEL_SIZE_PT).toFixed(2)}`;
    this.lines.push(
      `BT 0.3 0.34 0.44 rg /${FONT} ${LABEL_SIZE_PT} Tf 1 0 0 1 ${at} Tm ${this.font.encodeText(shown).toString()} Tj ET`,
    );
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

expose(handout);
