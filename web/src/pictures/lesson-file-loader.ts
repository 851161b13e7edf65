import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import { PasswordNeeded, PdfDocument } from '../pdf/pdf-document';
import { fileUrl, sheetPictureUrl } from '../server/api';

/** Gets the pictures and PDF pages of a teacher's lesson, on a page or in a worker. */
export class LessonFileLoader {
  private readonly pdfs = new Map<AssetId, Promise<PdfDocument>>();

  /** @param local files that are at hand, whether or not the server has them */
  constructor(
    private readonly lesson: LessonId,
    private readonly local: (asset: AssetId) => Blob | undefined = () => undefined,
  ) {}

  readonly load = async (asset: AssetId, pageIndex: number | null, widthPx: number): Promise<ImageBitmap> => {
    if (pageIndex === null) return createImageBitmap(await this.file(asset));
    try {
      return await (await this.pdf(asset)).draw(pageIndex, widthPx);
    } catch (error) {
      if (!(error instanceof PasswordNeeded)) throw error;
      // A locked PDF was drawn once, when its password was given.
      return createImageBitmap(await this.sheetPicture(asset, pageIndex));
    }
  };

  /** A file as it is. */
  async file(asset: AssetId): Promise<Blob> {
    return this.local(asset) ?? fetched(fileUrl(this.lesson, asset));
  }

  /** What a PDF's page looks like, as those who watch get it. */
  sheetPicture(asset: AssetId, pageIndex: number): Promise<Blob> {
    return fetched(sheetPictureUrl(this.lesson, asset, pageIndex));
  }

  /** A PDF that has been opened already, with its password where it needs one. */
  adopt(asset: AssetId, pdf: PdfDocument): void {
    this.pdfs.set(asset, Promise.resolve(pdf));
  }

  dispose(): void {
    for (const pdf of this.pdfs.values()) void pdf.then((open) => open.close()).catch(() => {});
    this.pdfs.clear();
  }

  /** A PDF of the lesson, opened. @throws PasswordNeeded, UnusablePdf */
  pdf(asset: AssetId): Promise<PdfDocument> {
    let pdf = this.pdfs.get(asset);
    if (!pdf) {
      pdf = this.opened(asset);
      this.pdfs.set(asset, pdf);
    }
    return pdf;
  }

  private async opened(asset: AssetId): Promise<PdfDocument> {
    const blob = this.local(asset);
    if (blob) return PdfDocument.open({ bytes: await blob.arrayBuffer() });
    return PdfDocument.open({ url: new URL(fileUrl(this.lesson, asset), location.origin).href });
  }
}

async function fetched(url: string): Promise<Blob> {
  const response = await fetch(url);
  if (!response.ok) throw new Error('This picture cannot be loaded just now.');
  return response.blob();
}
