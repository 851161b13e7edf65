import {
  PDFArray,
  PDFDict,
  PDFHexString,
  PDFName,
  PDFString,
  type PDFDocument,
  type PDFPage,
  type TransformationMatrix,
} from '@cantoo/pdf-lib';

/** A place of a sheet, from its lower left corner, and where it leads. */
export interface WebLink {
  rect: [left: number, bottom: number, right: number, top: number];
  address: string;
}

const name = (of: string) => PDFName.of(of);

/** The links of a PDF's page that lead to addresses, placed by a matrix. */
export function linksOf(page: PDFPage, matrix: TransformationMatrix): WebLink[] {
  const annotations = page.node.Annots();
  if (!annotations) return [];
  return annotations.asArray().flatMap((_, n) => {
    const dict = annotations.lookupMaybe(n, PDFDict);
    const rect = dict?.lookupMaybe(name('Rect'), PDFArray);
    const address = dict?.lookupMaybe(name('A'), PDFDict)?.lookup(name('URI'));
    if (dict?.lookup(name('Subtype')) !== name('Link') || !rect) return [];
    if (!(address instanceof PDFString) && !(address instanceof PDFHexString)) return [];
    const { x, y, width, height } = rect.asRectangle();
    return [{ rect: placed([x, y, x + width, y + height], matrix), address: address.decodeText() }];
  });
}

/** A rectangle by a matrix, its corners in order again. */
export function placed([left, bottom, right, top]: WebLink['rect'], matrix: readonly number[]): WebLink['rect'] {
  const [a, b, c, d, e, f] = matrix;
  const [x1, y1, x2, y2] = [
    a * left + c * bottom + e,
    b * left + d * bottom + f,
    a * right + c * top + e,
    b * right + d * top + f,
  ];
  return [Math.min(x1, x2), Math.min(y1, y2), Math.max(x1, x2), Math.max(y1, y2)];
}

/** Puts links on a sheet (ISO 32000-1, section 12.5.6.5). */
export function addLinks(document: PDFDocument, sheet: PDFPage, links: readonly WebLink[]): void {
  for (const { rect, address } of links) {
    const leadsTo = webAddress(address);
    if (!leadsTo) continue;
    const annotation = document.context.obj({
      Type: 'Annot',
      Subtype: 'Link',
      Rect: rect,
      Border: [0, 0, 0],
      A: { Type: 'Action', S: 'URI', URI: PDFString.of(leadsTo) },
    });
    sheet.node.addAnnot(document.context.register(annotation));
  }
}

/** An address as a PDF has it, in ASCII; `null` where it leads nowhere on the web. */
function webAddress(address: string): string | null {
  const url = URL.canParse(address) ? new URL(address) : null;
  return url && ['http:', 'https:', 'mailto:'].includes(url.protocol) ? url.href : null;
}
