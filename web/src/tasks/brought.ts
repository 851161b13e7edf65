import { wordsOf } from '@kite-trail/core/search/fold';
import type { PageId, StudentId, TaskId } from '@kite-trail/core/lesson/ids';
import { sheetPage } from '@kite-trail/core/lesson/page';
import { nanoid } from 'nanoid';
import { isPdf } from '../pdf/is-pdf';
import { PasswordNeeded, PdfDocument } from '../pdf/pdf-document';
import { preparePicture } from '../pictures/prepare-picture';
import { api } from '../server/api';
import { tasksApi } from '../server/tasks';
import { assetIdOf, upload } from '../server/upload';

/** A picture is shown at this many of its pixels to a point. */
const PX_PER_PT = 192 / 72;
/** How wide pages are drawn for those who look at them small, in pixels. */
const DRAWN_PX = 1200;
const MOST_PAGES = 60;

/** Whose work a file is by its name: the one student all of whose name is in it; `null` where nobody’s is, or more than one’s. */
export function studentOf<One extends { name: string }>(fileName: string, students: readonly One[]): One | null {
  const words = new Set(lettersIn(fileName));
  const named = students.filter(({ name }) => lettersIn(name).every((word) => words.has(word)));
  // “Per” is in “Per Anker”, too: who has more of it is meant.
  const most = Math.max(0, ...named.map(({ name }) => lettersIn(name).length));
  const fullest = named.filter(({ name }) => lettersIn(name).length === most);
  return fullest.length === 1 ? fullest[0] : null;
}

/** The words of a name, or of a file's: whatever else is in it parts them. */
const lettersIn = (text: string): readonly string[] => wordsOf(text.replace(/[^\p{L}\p{N}]+/gu, ' '));

/**
 * Lets a file that came by mail or drive lie with what was handed in: a PDF page by page, or a picture.
 * @throws Error with what is wrong with it
 */
export async function bringWork(task: TaskId, student: StudentId, file: File): Promise<void> {
  await ((await isPdf(file)) ? bringPdf(task, student, file) : bringPicture(task, student, file));
}

async function bringPdf(task: TaskId, student: StudentId, file: File): Promise<void> {
  const pdf = await PdfDocument.open({ bytes: await file.arrayBuffer() }).catch((error: unknown) => {
    throw error instanceof PasswordNeeded ? new Error('It is locked. Save it without a password first.') : error;
  });
  try {
    if (pdf.pageCount > MOST_PAGES) throw new Error(`It has ${pdf.pageCount} pages; a reply takes ${MOST_PAGES}.`);
    const indices = Array.from({ length: pdf.pageCount }, (_, n) => n);
    const sizes = await pdf.sizes(indices);
    const asset = await assetIdOf(file);
    const pages = sizes.map((size, pageIndex) => sheetPage(nanoid(12) as PageId, { asset, pageIndex, ...size }));
    const work = { student, asset, name: file.name, pages };
    const lesson = await upload(asset, file, () => tasksApi.bring(task, work));
    for (const pageIndex of indices) {
      await api.keepSheetPicture(lesson, asset, pageIndex, await pdf.drawFile(pageIndex, DRAWN_PX));
    }
  } finally {
    pdf.close();
  }
}

async function bringPicture(task: TaskId, student: StudentId, file: File): Promise<void> {
  const { blob, widthPx, heightPx } = await preparePicture(file);
  const asset = await assetIdOf(blob);
  const size = { widthPt: widthPx / PX_PER_PT, heightPt: heightPx / PX_PER_PT };
  const pages = [sheetPage(nanoid(12) as PageId, { asset, pageIndex: null, ...size })];
  await upload(asset, blob, () => tasksApi.bring(task, { student, asset, name: file.name, pages }));
}
