import { transfer, wrap, type Remote } from 'comlink';
import type { PdfSource, PdfWorker } from './pdf.worker';
import PdfDrawer from './pdf.worker?worker';

/** The PDF cannot be used; the message says why. */
export class UnusablePdf extends Error {
  override readonly name = 'UnusablePdf';
}

/** The PDF is locked. */
export class PasswordNeeded extends Error {
  override readonly name = 'PasswordNeeded';

  constructor(readonly wrong: boolean) {
    super(wrong ? 'This is not its password.' : 'This PDF is locked. Enter its password.');
  }
}

let drawer: Remote<PdfWorker> | null = null;

/** A PDF that is read and drawn in a worker. */
export class PdfDocument {
  private constructor(
    private readonly worker: Remote<PdfWorker>,
    private readonly handle: number,
    readonly pageCount: number,
  ) {}

  /** @throws PasswordNeeded, UnusablePdf */
  static async open(source: PdfSource, password?: string): Promise<PdfDocument> {
    drawer ??= wrap<PdfWorker>(new PdfDrawer());
    const given = 'bytes' in source ? transfer(source, [source.bytes]) : source;
    const opening = await drawer.open(given, password);
    if (opening.kind === 'password') throw new PasswordNeeded(opening.wrong);
    if (opening.kind === 'unusable') throw new UnusablePdf(opening.message);
    return new PdfDocument(drawer, opening.document, opening.pageCount);
  }

  /** Pages' sizes in points, upright. */
  sizes(pageIndices: readonly number[]): Promise<{ widthPt: number; heightPt: number }[]> {
    return this.worker.sizes(this.handle, pageIndices);
  }

  /** A page as a picture of about this many pixels across. */
  draw(pageIndex: number, widthPx: number): Promise<ImageBitmap> {
    return this.worker.draw(this.handle, pageIndex, widthPx);
  }

  /** The same as a file. */
  drawFile(pageIndex: number, widthPx: number): Promise<Blob> {
    return this.worker.drawFile(this.handle, pageIndex, widthPx);
  }

  close(): void {
    void this.worker.close(this.handle);
  }
}
