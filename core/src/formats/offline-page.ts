import { CARRIED_ID, type Carried, type CarriedFile } from '../contract/carried';
import { markupText } from './markup-text';
import type { TranscriptLine } from './transcript';

/** A lesson as one HTML file. */
export interface OfflinePage {
  title: string;
  /** A language tag (BCP 47), or nothing. */
  language: string;
  carried: Carried;
  /** `null` where nobody speaks. */
  sound: CarriedFile | null;
  /** What its pages look like in the end, for whoever has no script. */
  pictures: readonly CarriedFile[];
  /** What is said and written, for whoever has no script. */
  lines: readonly TranscriptLine[];
}

/** Stands in the program where the lesson goes. */
const PLACE = '<!--carried-->';

/**
 * Puts a lesson into the program that plays it. Without script the page shows its last pages, its words, and something to hear it by.
 * @param program the program as one HTML file (HTML Living Standard), with a place for the lesson
 * @returns the page in parts, to be joined: together they may be larger than a string can be
 * @throws Error where the program has no such place
 */
export function writeOfflinePage(program: string, page: OfflinePage): string[] {
  const [before, after] = program.split(PLACE);
  if (after === undefined) throw new Error('The program that plays a lesson offline is not there.');
  const { title, language, carried, sound, pictures, lines } = page;
  const head = before
    .replace('<html lang="en">', language ? `<html lang="${markupText(language)}">` : '<html>')
    .replace(/<title>.*?<\/title>/, () => `<title>${markupText(title)}</title>`)
    .replace('</head>', () => `${PLAIN}</head>`);
  return [
    head,
    `<main id="plain"><h1 dir="auto">${markupText(title)}</h1>`,
    ...(sound ? [`<audio controls preload="metadata" src="`, ...dataUrl(sound), '"></audio>'] : []),
    ...pictures.flatMap((one, n) => ['<img alt="Page ', String(n + 1), '" src="', ...dataUrl(one), '">']),
    ...lines.map(({ startSeconds, text, kind }) => {
      const tag = kind === 'said' ? 'p' : 'blockquote';
      return `<${tag} dir="auto"><time>${timeText(startSeconds)}</time> ${markupText(text)}</${tag}>`;
    }),
    '</main>',
    // A script's content ends at its end tag, and begins nothing else, once no `<` is left in it.
    `<script type="application/json" id="${CARRIED_ID}">`,
    JSON.stringify(carried).replaceAll('<', '\\u003c'),
    '</script>',
    after,
  ];
}

/** What is there without script is shown where there is none. */
const PLAIN = `<style>
#plain{display:none;max-width:60rem;margin:0 auto;padding:1rem;line-height:1.5}
#plain img{display:block;width:100%;margin:1rem 0;border:1px solid #ddd3bf}
#plain audio{width:100%}
#plain time{color:#56607a;margin-right:.5rem;font-variant-numeric:tabular-nums}
</style><noscript><style>#plain{display:block}</style></noscript>`;

const dataUrl = ({ type, base64 }: CarriedFile): string[] => ['data:', markupText(type), ';base64,', base64];

function timeText(seconds: number): string {
  const whole = Math.floor(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}
