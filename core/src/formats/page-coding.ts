import { pageUnit } from '../lesson/content';
import type { AssetId, PageId } from '../lesson/ids';
import { PAPER_KINDS, type Page, type Sheet } from '../lesson/page';
import type { ByteReader, ByteWriter } from './bytes';
import { readCode, readColor, readPt, readSignedPt, writeCode, writeColor, writePt, writeSignedPt } from './elements';

/** Flags of a page. */
const HAS_SHEET = 1;
const HAS_PICTURE = 2;
const HAS_SCALE = 4;

export function writePage(out: ByteWriter, page: Page): void {
  out.text(page.id);
  writePt(out, page.widthPt);
  writePt(out, page.heightPt);
  writeCode(out, PAPER_KINDS, page.paper.kind);
  writeColor(out, page.paper.color);
  writeColor(out, page.paper.lineColor);
  writePt(out, page.paper.spacingPt);
  writeSignedPt(out, page.leftPt);
  writeSignedPt(out, page.topPt);
  out.byte((page.sheet ? HAS_SHEET : 0) | (page.paper.picture ? HAS_PICTURE : 0) | (page.scale ? HAS_SCALE : 0));
  if (page.sheet) writeSheet(out, page.sheet);
  if (page.paper.picture) out.text(page.paper.picture);
  if (page.scale) {
    out.double(page.scale.perCm);
    out.json(page.scale.unit);
  }
}

/** @throws FormatError where the page, or its paper, is of no kind that is known */
export function readPage(from: ByteReader): Page {
  const id = from.text() as PageId;
  const size = { widthPt: readPt(from), heightPt: readPt(from) };
  const paper = {
    kind: readCode(from, PAPER_KINDS),
    color: readColor(from),
    lineColor: readColor(from),
    spacingPt: readPt(from),
  };
  const edges = { leftPt: readSignedPt(from), topPt: readSignedPt(from) };
  const flags = from.byte();
  const sheet = flags & HAS_SHEET ? readSheet(from) : null;
  const picture = flags & HAS_PICTURE ? (from.text() as AssetId) : null;
  const scale = flags & HAS_SCALE ? { perCm: from.double(), unit: from.json(pageUnit) } : null;
  return { id, ...edges, ...size, paper: { ...paper, picture }, sheet, scale };
}

/** A picture's page index is written as 0, a PDF's as one more than it is. */
function writeSheet(out: ByteWriter, sheet: Sheet): void {
  out.text(sheet.asset);
  out.unsigned(sheet.pageIndex === null ? 0 : sheet.pageIndex + 1);
  writePt(out, sheet.widthPt);
  writePt(out, sheet.heightPt);
}

function readSheet(from: ByteReader): Sheet {
  const asset = from.text() as AssetId;
  const index = from.unsigned();
  return { asset, pageIndex: index === 0 ? null : index - 1, widthPt: readPt(from), heightPt: readPt(from) };
}
