import { PDFHexString, PDFName, PDFNumber, type PDFDocument, type PDFRef } from '@cantoo/pdf-lib';

/** A bookmark: what it is called, and to which page it leads. */
export interface Bookmark {
  title: string;
  page: PDFRef;
}

/** Gives a document bookmarks, one after the other (ISO 32000-1, section 12.3.3). */
export function addOutline(document: PDFDocument, bookmarks: readonly Bookmark[]): void {
  if (bookmarks.length === 0) return;
  const { context } = document;
  const outline = context.nextRef();
  const refs = bookmarks.map(() => context.nextRef());
  bookmarks.forEach(({ title, page }, n) => {
    const item = context.obj({ Parent: outline, Dest: [page, PDFName.of('Fit')] });
    item.set(PDFName.of('Title'), PDFHexString.fromText(title));
    if (n > 0) item.set(PDFName.of('Prev'), refs[n - 1]);
    if (n < refs.length - 1) item.set(PDFName.of('Next'), refs[n + 1]);
    context.assign(refs[n], item);
  });
  const whole = context.obj({ Type: 'Outlines', First: refs[0], Last: refs[refs.length - 1] });
  whole.set(PDFName.of('Count'), PDFNumber.of(refs.length));
  context.assign(outline, whole);
  document.catalog.set(PDFName.of('Outlines'), outline);
}
