import { spacedKey, type Student } from '@kite-trail/core/contract/student';
import { qrSvg } from '../controls/qr-code';

/** Prints a slip of paper for each student: their name, how they come in, and the same as a QR code. */
export async function printSlips(
  className: string,
  students: readonly Student[],
  linkOf: (student: Student) => string,
): Promise<void> {
  const frame = document.createElement('iframe');
  frame.hidden = true;
  document.body.append(frame);
  const page = frame.contentDocument!;
  page.title = `Slips of ${className}`;
  const style = page.createElement('style');
  style.textContent = SLIP_STYLE;
  page.head.append(style);
  for (const student of students) page.body.append(await slipOf(page, className, student, linkOf(student)));
  await Promise.all([...page.images].map((image) => image.decode()));
  frame.contentWindow!.addEventListener('afterprint', () => frame.remove());
  frame.contentWindow!.print();
}

async function slipOf(page: Document, className: string, student: Student, link: string): Promise<HTMLElement> {
  const slip = page.createElement('section');
  const code = page.createElement('img');
  code.src = await qrSvg(link);
  const told = page.createElement('div');
  const lines = [
    student.name,
    className,
    link.replace(/^https?:\/\//, '').replace(/\/in\/.*$/, ''),
    spacedKey(student.key),
  ];
  for (const [n, text] of lines.entries()) {
    const line = page.createElement(n === 0 ? 'h1' : 'p');
    line.dir = 'auto';
    line.textContent = text;
    told.append(line);
  }
  slip.append(code, told);
  return slip;
}

const SLIP_STYLE = `
  body { margin: 0; font: 11pt sans-serif; }
  section { display: flex; gap: 6mm; align-items: center; padding: 4mm; border-bottom: 0.3mm dashed #999; break-inside: avoid; }
  img { width: 30mm; }
  h1 { margin: 0 0 1mm; font-size: 16pt; }
  p { margin: 0 0 1mm; }
  p:last-child { font-size: 14pt; letter-spacing: 0.06em; }
`;
