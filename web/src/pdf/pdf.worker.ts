import { expose, transfer } from 'comlink';
import {
  getDocument,
  InvalidPDFException,
  PDFWorker,
  VerbosityLevel,
  type PDFDocumentProxy,
  type PDFPageProxy,
} from 'pdfjs-dist';
import PdfParser from 'pdfjs-dist/build/pdf.worker.mjs?worker';
import { LARGEST_SIDE_PT } from '@kite-trail/core/lesson/page';

/** A PDF by its bytes, or by an address of which only the parts that are needed are read. */
export type PdfSource = { bytes: ArrayBuffer } | { url: string };

type PdfOpening =
  | { kind: 'open'; document: number; pageCount: number }
  | { kind: 'password'; wrong: boolean }
  | { kind: 'unusable'; message: string };

/** Canvases grow no larger than this: 16 megapixels take 64 megabytes. */
const MOST_PIXELS = 16e6;
const FILE_QUALITY = 0.8;
/** A picture inside a PDF that would take more is left out. */
const MOST_IMAGE_PIXELS = 60e6;

/** The canvases pdf.js draws on, in a place without a document. */
class WorkerCanvases {
  create(width: number, height: number) {
    const canvas = new OffscreenCanvas(width, height);
    return { canvas, context: canvas.getContext('2d', { willReadFrequently: true }) };
  }
  reset({ canvas }: { canvas: OffscreenCanvas }, width: number, height: number) {
    canvas.width = width;
    canvas.height = height;
  }
  destroy(drawn: { canvas: OffscreenCanvas | null; context: unknown }) {
    if (drawn.canvas) drawn.canvas.width = drawn.canvas.height = 0;
    drawn.canvas = drawn.context = null;
  }
}

/** Filters are made of SVG elements, which a worker has not; pages are drawn without them. */
class NoFilters {
  addFilter = () => 'none';
  addHCMFilter = () => 'none';
  addAlphaFilter = () => 'none';
  addLuminosityFilter = () => 'none';
  addHighlightHCMFilter = () => 'none';
  destroy() {}
}

// What is wrong with a file is told to the teacher.
const parser = new PDFWorker({ port: new PdfParser() as never, verbosity: VerbosityLevel.ERRORS });
const documents = new Map<number, PDFDocumentProxy>();
let opened = 0;

const shipped = (folder: string) => new URL(`/pdf/${folder}/`, self.location.origin).href;

export const pdfWorker = {
  async open(source: PdfSource, password?: string): Promise<PdfOpening> {
    const task = getDocument({
      ...('bytes' in source
        ? { data: source.bytes }
        : { url: new URL(source.url), disableAutoFetch: true, disableStream: true }),
      password,
      worker: parser,
      CanvasFactory: WorkerCanvases,
      FilterFactory: NoFilters,
      ownerDocument: { fonts: (self as unknown as { fonts: unknown }).fonts } as never,
      cMapUrl: shipped('cmaps'),
      cMapPacked: true,
      standardFontDataUrl: shipped('standard_fonts'),
      wasmUrl: shipped('wasm'),
      iccUrl: shipped('iccs'),
      useWorkerFetch: true,
      isEvalSupported: false,
      maxImageSize: MOST_IMAGE_PIXELS,
    });
    try {
      const document = await task.promise;
      documents.set(++opened, document);
      return { kind: 'open', document: opened, pageCount: document.numPages };
    } catch (error) {
      void task.destroy();
      if ((error as Error).name === 'PasswordException') return { kind: 'password', wrong: password !== undefined };
      if (error instanceof InvalidPDFException) {
        return {
          kind: 'unusable',
          message: 'This PDF is damaged and cannot be read. Save it anew, or print it to PDF.',
        };
      }
      return { kind: 'unusable', message: `This PDF cannot be read (${(error as Error).message}).` };
    }
  },

  /** Pages' sizes in points, upright as they are read. */
  async sizes(document: number, pageIndices: readonly number[]): Promise<{ widthPt: number; heightPt: number }[]> {
    return Promise.all(pageIndices.map(async (index) => sizeOf(await pageOf(document, index))));
  },

  /** A page as a picture of about this many pixels across. */
  async draw(document: number, pageIndex: number, widthPx: number): Promise<ImageBitmap> {
    const bitmap = (await drawnPage(document, pageIndex, widthPx)).transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },

  /** The same as a file, for those who cannot draw PDFs. */
  async drawFile(document: number, pageIndex: number, widthPx: number): Promise<Blob> {
    const canvas = await drawnPage(document, pageIndex, widthPx);
    return canvas.convertToBlob({ type: 'image/webp', quality: FILE_QUALITY });
  },

  async close(document: number): Promise<void> {
    await documents.get(document)?.loadingTask.destroy();
    documents.delete(document);
  },
};

export type PdfWorker = typeof pdfWorker;
expose(pdfWorker);

async function drawnPage(document: number, pageIndex: number, widthPx: number): Promise<OffscreenCanvas> {
  const page = await pageOf(document, pageIndex);
  const { widthPt, heightPt } = sizeOf(page);
  const scale = Math.min(widthPx / widthPt, Math.sqrt(MOST_PIXELS / (widthPt * heightPt)));
  const viewport = page.getViewport({ scale });
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(viewport.width)), Math.max(1, Math.round(viewport.height)));
  const canvasContext = canvas.getContext('2d', { alpha: false })!;
  await page.render({ canvas: null, canvasContext: canvasContext as never, viewport }).promise;
  page.cleanup();
  return canvas;
}

async function pageOf(document: number, pageIndex: number): Promise<PDFPageProxy> {
  const found = documents.get(document);
  if (!found) throw new Error('This PDF is no longer open.');
  return found.getPage(pageIndex + 1);
}

function sizeOf(page: PDFPageProxy): { widthPt: number; heightPt: number } {
  const { width, height } = page.getViewport({ scale: 1 });
  const bounded = (pt: number) => Math.min(LARGEST_SIDE_PT, Math.max(1, pt));
  return { widthPt: bounded(width), heightPt: bounded(height) };
}
