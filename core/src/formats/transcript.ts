/** Something that is said or written in a lesson, with when it is heard or first seen. */
export interface TranscriptLine {
  kind: 'said' | 'written';
  startSeconds: number;
  text: string;
}

/** A lesson in words. */
export interface Transcript {
  title: string;
  chapters: readonly { startSeconds: number; title: string }[];
  lines: readonly TranscriptLine[];
}

interface Section {
  title: string;
  startSeconds: number;
  lines: TranscriptLine[];
}

/** A lesson's words under its chapters, in the order in which they come; what comes before the first chapter stands under none. */
function sectionsOf({ chapters, lines }: Transcript): Section[] {
  const inOrder = [...chapters].sort((a, b) => a.startSeconds - b.startSeconds);
  const sections: Section[] = [{ title: '', startSeconds: 0, lines: [] }];
  for (const chapter of inOrder) sections.push({ ...chapter, lines: [] });
  for (const line of [...lines].sort((a, b) => a.startSeconds - b.startSeconds)) {
    sections.findLast((one, n) => n === 0 || one.startSeconds <= line.startSeconds)!.lines.push(line);
  }
  return sections.filter((one, n) => n > 0 || one.lines.length > 0);
}

/** Writes what is said and written as plain text, each line with its time. */
export function writeTranscript(transcript: Transcript): string {
  const sections = sectionsOf(transcript).map(({ title, lines }) => {
    const told = lines.map(({ startSeconds, text, kind }) => {
      const words = oneLine(text);
      return `[${timeText(startSeconds)}] ${kind === 'written' ? `On the page: ${words}` : words}`;
    });
    return [...(title ? [oneLine(title), ''] : []), ...told].join('\n');
  });
  return `${[oneLine(transcript.title), ...sections].join('\n\n')}\n`;
}

/**
 * Writes a lesson as Markdown (CommonMark 0.31): its chapters are headings, what is said are paragraphs, what is written on the page
 * are quotations. What would mean something in Markdown is written so that it means itself.
 */
export function writeMarkdown(transcript: Transcript): string {
  const blocks = [`# ${plain(transcript.title)}`];
  for (const { title, lines } of sectionsOf(transcript)) {
    if (title) blocks.push(`## ${plain(title)}`);
    let said: string[] = [];
    const endParagraph = () => {
      if (said.length > 0) blocks.push(said.join(' '));
      said = [];
    };
    for (const { kind, text } of lines) {
      if (kind === 'said') {
        said.push(plain(text));
        continue;
      }
      endParagraph();
      blocks.push(
        text
          .split('\n')
          .map((line) => `> ${plain(line)}`.trimEnd())
          .join('  \n'),
      );
    }
    endParagraph();
  }
  return `${blocks.join('\n\n')}\n`;
}

const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim();

/** Any punctuation of ASCII may be written behind a backslash (CommonMark 0.31, section 2.4). */
const plain = (text: string): string => oneLine(text).replace(/[\\`*_{}[\]<>#|~&!()+\-.=]/g, '\\$&');

function timeText(seconds: number): string {
  const whole = Math.floor(seconds);
  const two = (value: number) => String(Math.floor(value)).padStart(2, '0');
  return `${two(whole / 3600)}:${two((whole / 60) % 60)}:${two(whole % 60)}`;
}
