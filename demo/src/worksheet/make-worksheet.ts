import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { degrees, PDFDocument, rgb, StandardFonts, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';

/**
 * Makes the worksheet that ships with the demo: three pages, the second of them across and kept turned, as scanners and
 * spreadsheets do. `npm run worksheet` makes it anew; pictures of its pages are drawn by poppler's `pdftoppm`.
 */
const folder = fileURLToPath(new URL('../../worksheet/', import.meta.url));
const NIGHT = rgb(0.12, 0.16, 0.27);
const SOFT = rgb(0.38, 0.42, 0.5);
const SEA = rgb(0.07, 0.47, 0.44);
const A4 = { width: 595.28, height: 841.89 };
const LEFT = 64;

const document = await PDFDocument.create();
document.setTitle('Heights of tide: worksheet');
document.setCreationDate(new Date('2026-03-01T09:00:00Z'));
document.setModificationDate(new Date('2026-03-01T09:00:00Z'));
const plain = await document.embedFont(StandardFonts.Helvetica);
const bold = await document.embedFont(StandardFonts.HelveticaBold);

const text = (page: PDFPage, words: string, x: number, y: number, size = 13, font: PDFFont = plain, color = NIGHT) =>
  page.drawText(words, { x, y, size, font, color });
const rule = (page: PDFPage, x: number, y: number, toX: number, toY: number, thickness = 0.8, color = SOFT) =>
  page.drawLine({ start: { x, y }, end: { x: toX, y: toY }, thickness, color });

function header(page: PDFPage, number: number, heading: string, top: number): void {
  text(page, 'Sandhaven boat school', LEFT, top, 10, plain, SOFT);
  text(page, `Heights of tide · ${number} of 3`, LEFT + 330, top, 10, plain, SOFT);
  text(page, heading, LEFT, top - 40, 24, bold);
}

function table(page: PDFPage, rows: readonly (readonly string[])[], top: number, widths: readonly number[]): void {
  const rowHeight = 28;
  rows.forEach((cells, row) => {
    let x = LEFT;
    cells.forEach((cell, column) => {
      text(page, cell, x + 10, top - row * rowHeight - 19, 12, row === 0 ? bold : plain);
      x += widths[column];
    });
    rule(page, LEFT, top - (row + 1) * rowHeight, x, top - (row + 1) * rowHeight);
  });
  const right = LEFT + widths.reduce((sum, width) => sum + width, 0);
  rule(page, LEFT, top, right, top);
}

function first(): void {
  const page = document.addPage([A4.width, A4.height]);
  header(page, 1, 'The rule of twelfths', 790);
  text(page, 'Sandhaven bar, today. Times are local, heights are above chart datum.', LEFT, 716);
  table(
    page,
    [
      ['', 'Time', 'Height'],
      ['High water', '06:12', '4.8 m'],
      ['Low water', '12:24', '1.2 m'],
    ],
    696,
    [150, 110, 110],
  );
  const questions = [
    '1. What is the range of this tide?',
    '2. How long does it fall?',
    '3. In the first hour it falls by one twelfth of the range. How much is that?',
    '4. Fill in the table.',
  ];
  questions.forEach((question, i) => text(page, question, LEFT, 570 - i * 44));
  table(
    page,
    [['Hour', 'Twelfths', 'Falls by', 'Height then'], ...[1, 2, 3, 4, 5, 6].map((hour) => [String(hour), '', '', ''])],
    410,
    [70, 110, 120, 140],
  );
  text(page, '5. You draw 1.1 m and the bar dries 0.6 m. Until when can you cross?', LEFT, 160);
}

/** Kept upright in the file and shown turned by a quarter, as the page's own entry says. */
function second(): void {
  const page = document.addPage([A4.width, A4.height]);
  page.setRotation(degrees(90));
  // On a page turned clockwise, what reads across runs up the file's page.
  const across = (words: string, x: number, y: number, size = 13, font = plain, color = NIGHT) =>
    page.drawText(words, { x: A4.width - y, y: x, size, font, color, rotate: degrees(90) });
  const line = (x: number, y: number, toX: number, toY: number, thickness = 0.8, color = SOFT) =>
    page.drawLine({
      start: { x: A4.width - y, y: x },
      end: { x: A4.width - toY, y: toX },
      thickness,
      color,
    });
  across('Sandhaven boat school', LEFT, 540, 10, plain, SOFT);
  across('Heights of tide · 2 of 3', LEFT + 590, 540, 10, plain, SOFT);
  across('Draw the curve of this tide', LEFT, 500, 24, bold);
  const [left, bottom, width, height] = [LEFT + 40, 90, 640, 360];
  for (let hour = 0; hour <= 6; hour++) {
    const x = left + (hour * width) / 6;
    line(x, bottom, x, bottom + height);
    across(`HW + ${hour} h`, x - 20, bottom - 20, 11);
  }
  for (let metres = 0; metres <= 5; metres++) {
    const y = bottom + (metres * height) / 5;
    line(left, y, left + width, y);
    across(`${metres} m`, left - 34, y - 4, 11);
  }
  line(left, bottom, left + width, bottom, 2, NIGHT);
  line(left, bottom, left, bottom + height, 2, NIGHT);
}

function third(): void {
  const page = document.addPage([A4.width, A4.height]);
  header(page, 3, 'Under the keel', 790);
  text(page, 'Label the depth, the height of tide and the clearance.', LEFT, 716);
  const [surface, datum, bed] = [560, 430, 330];
  rule(page, LEFT, surface, 530, surface, 1.6, SEA);
  rule(page, LEFT, datum, 530, datum);
  rule(page, LEFT, bed, 530, bed, 3, NIGHT);
  text(page, 'surface now', 440, surface + 8, 11, plain, SEA);
  text(page, 'chart datum', 440, datum + 8, 11, plain, SOFT);
  text(page, 'sea bed', 440, bed + 10, 11);
  page.drawSvgPath('M 0 0 L 150 0 Q 140 34 104 40 L 88 76 L 60 76 L 52 42 Q 12 36 0 0 Z', {
    x: 190,
    y: surface + 22,
    borderColor: NIGHT,
    borderWidth: 2,
    color: rgb(0.98, 0.96, 0.92),
  });
  rule(page, 262, surface + 22, 262, surface + 150, 3, NIGHT);
  text(page, 'The chart says 2.3 m here. Height of tide now: 2.1 m. You draw 1.1 m.', LEFT, 270);
  text(page, 'How much water is there under the keel?', LEFT, 240);
}

first();
second();
third();
writeFileSync(`${folder}heights-of-tide.pdf`, await document.save());
execFileSync('pdftoppm', ['-r', '110', '-png', `${folder}heights-of-tide.pdf`, `${folder}heights-of-tide`]);
