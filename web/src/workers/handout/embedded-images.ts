import {
  PDFDocument,
  type PDFEmbeddedPage,
  type PDFPage,
  type PDFRef,
  type TransformationMatrix,
} from '@cantoo/pdf-lib';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Images } from '@kite-trail/core/paint/picture';
import type { PdfImage } from '@kite-trail/core/paint/vector/pdf-surface';

/** A picture of the lesson, or a page of a PDF, that is in the hand-out. */
export interface Embedded extends PdfImage {
  ref: PDFRef;
  /** Where it is a PDF's page: the page it was, and how it was laid upright. */
  source: { page: PDFPage; matrix: TransformationMatrix } | null;
}

/** Where a hand-out's pictures and PDFs come from. */
export interface HandoutFiles {
  /** A file as it is. */
  file(asset: AssetId): Promise<Blob>;
  /** A picture, or a PDF's page, as a PNG. */
  drawn(asset: AssetId, pageIndex: number | null, widthPx: number): Promise<Blob>;
}

/** Pages that cannot be taken over as they are, such as those of a locked PDF, are drawn so wide. */
const DRAWN_WIDTH_PX = 1800;

/** The pictures and PDFs of a lesson, put into a hand-out: PDF pages stay what they are. */
export class EmbeddedImages implements Images {
  private readonly found = new Map<string, Embedded>();
  private readonly pdfs = new Map<AssetId, Promise<PDFDocument | null>>();

  constructor(
    private readonly document: PDFDocument,
    private readonly files: HandoutFiles,
  ) {}

  find(asset: AssetId, pageIndex: number | null): (Embedded & { image: Embedded }) | null {
    const found = this.found.get(keyOf(asset, pageIndex));
    return found ? { ...found, image: found } : null;
  }

  /** Gets what a page needs, before it is drawn. @throws Error where it cannot be had */
  async gather(asset: AssetId, pageIndex: number | null): Promise<void> {
    const key = keyOf(asset, pageIndex);
    if (this.found.has(key)) return;
    const name = `I${this.found.size}`;
    const pdf = pageIndex === null ? null : await this.pdf(asset);
    const embedded = pdf ? await this.pdfPage(pdf, pageIndex!, name) : await this.picture(asset, pageIndex, name);
    this.found.set(key, embedded);
  }

  private pdf(asset: AssetId): Promise<PDFDocument | null> {
    const known = this.pdfs.get(asset) ?? this.loadPdf(asset);
    this.pdfs.set(asset, known);
    return known;
  }

  /** `null` where it is locked. */
  private async loadPdf(asset: AssetId): Promise<PDFDocument | null> {
    const bytes = await (await this.files.file(asset)).arrayBuffer();
    return PDFDocument.load(bytes, { updateMetadata: false }).catch(() => null);
  }

  private async pdfPage(pdf: PDFDocument, pageIndex: number, name: string): Promise<Embedded> {
    const page = pdf.getPage(pageIndex);
    const { matrix, box, width, height } = upright(page);
    const embedded: PDFEmbeddedPage = await this.document.embedPage(page, box, matrix);
    await embedded.embed();
    const form = { width, height };
    return { name, ref: embedded.ref, widthPx: width, heightPx: height, form, source: { page, matrix } };
  }

  private async picture(asset: AssetId, pageIndex: number | null, name: string): Promise<Embedded> {
    const file = pageIndex === null ? await this.files.file(asset) : null;
    const isKept = file?.type === 'image/jpeg' || file?.type === 'image/png';
    const bytes = await (isKept ? file : await this.files.drawn(asset, pageIndex, DRAWN_WIDTH_PX)).arrayBuffer();
    const image =
      file?.type === 'image/jpeg' ? await this.document.embedJpg(bytes) : await this.document.embedPng(bytes);
    await image.embed();
    return { name, ref: image.ref, widthPx: image.width, heightPx: image.height, form: null, source: null };
  }
}

const keyOf = (asset: AssetId, pageIndex: number | null): string => `${asset} ${pageIndex}`;

/** How a page that is kept turned (`Rotate`, ISO 32000-1, section 7.7.3.3) is laid upright, its lower left corner at the origin. */
function upright(page: PDFPage): {
  matrix: TransformationMatrix;
  box: { left: number; bottom: number; right: number; top: number };
  width: number;
  height: number;
} {
  const { x, y, width, height } = page.getCropBox();
  const box = { left: x, bottom: y, right: x + width, top: y + height };
  switch ((((page.getRotation().angle % 360) + 360) % 360) as 0 | 90 | 180 | 270) {
    case 90:
      return { matrix: [0, -1, 1, 0, -y, x + width], box, width: height, height: width };
    case 180:
      return { matrix: [-1, 0, 0, -1, x + width, y + height], box, width, height };
    case 270:
      return { matrix: [0, 1, -1, 0, y + height, -x], box, width: height, height: width };
    default:
      return { matrix: [1, 0, 0, 1, -x, -y], box, width, height };
  }
}
