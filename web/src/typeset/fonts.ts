import clearBold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import clear from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import clearExtBold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff?url';
import clearExt from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff?url';
import schoolBold from '@fontsource/andika/files/andika-latin-700-normal.woff?url';
import school from '@fontsource/andika/files/andika-latin-400-normal.woff?url';
import schoolExtBold from '@fontsource/andika/files/andika-latin-ext-700-normal.woff?url';
import schoolExt from '@fontsource/andika/files/andika-latin-ext-400-normal.woff?url';
import readerBold from '@fontsource/lexend/files/lexend-latin-700-normal.woff?url';
import reader from '@fontsource/lexend/files/lexend-latin-400-normal.woff?url';
import readerExtBold from '@fontsource/lexend/files/lexend-latin-ext-700-normal.woff?url';
import readerExt from '@fontsource/lexend/files/lexend-latin-ext-400-normal.woff?url';
import bookBold from '@fontsource/literata/files/literata-latin-700-normal.woff?url';
import book from '@fontsource/literata/files/literata-latin-400-normal.woff?url';
import bookExtBold from '@fontsource/literata/files/literata-latin-ext-700-normal.woff?url';
import bookExt from '@fontsource/literata/files/literata-latin-ext-400-normal.woff?url';
import cyrillicBold from '@fontsource/literata/files/literata-cyrillic-700-normal.woff?url';
import cyrillic from '@fontsource/literata/files/literata-cyrillic-400-normal.woff?url';
import greekBold from '@fontsource/literata/files/literata-greek-700-normal.woff?url';
import greek from '@fontsource/literata/files/literata-greek-400-normal.woff?url';
import dyslexiaBold from '@fontsource/opendyslexic/files/opendyslexic-latin-700-normal.woff?url';
import dyslexia from '@fontsource/opendyslexic/files/opendyslexic-latin-400-normal.woff?url';
import arabicBold from '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-700-normal.woff?url';
import arabic from '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff?url';
import hebrewBold from '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-700-normal.woff?url';
import hebrew from '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-400-normal.woff?url';
import emojiBold from '@fontsource/noto-emoji/files/noto-emoji-emoji-700-normal.woff?url';
import emoji from '@fontsource/noto-emoji/files/noto-emoji-emoji-400-normal.woff?url';
import arabicRanges from '@fontsource/noto-sans-arabic/unicode.json';
import hebrewRanges from '@fontsource/noto-sans-hebrew/unicode.json';
import emojiRanges from '@fontsource/noto-emoji/unicode.json';
import bookRanges from '@fontsource/literata/unicode.json';
import type { FontName } from '@kite-trail/core/lesson/content';
import { FontFile, lettersOf, Typeface } from '@kite-trail/core/typeset/typeface';

/** A file with the letters of a script. */
interface Script {
  url: string;
  covers(letter: string): boolean;
}

/** @param ranges as CSS writes them: `U+0590-05FF,U+20AA` */
function script(url: string, ranges: string): Script {
  const spans = ranges.split(',').map((range) => {
    const [from, to = from] = range.trim().replace(/^U\+/i, '').split('-');
    return [parseInt(from, 16), parseInt(to, 16)];
  });
  return { url, covers: (letter) => spans.some(([from, to]) => from <= first(letter) && first(letter) <= to) };
}
const first = (letter: string) => letter.codePointAt(0)!;

/** Files whose letters the font itself does not have: the same for all fonts. */
const others = (isBold: boolean): Script[] => [
  script(isBold ? greekBold : greek, bookRanges.greek),
  script(isBold ? cyrillicBold : cyrillic, bookRanges.cyrillic),
  script(isBold ? bookExtBold : bookExt, bookRanges['latin-ext']),
  script(isBold ? hebrewBold : hebrew, hebrewRanges.hebrew),
  script(isBold ? arabicBold : arabic, arabicRanges.arabic),
  script(isBold ? emojiBold : emoji, Object.values(emojiRanges).join(',')),
];
/** A font's own files: of Latin, and, where there is one, of what Latin has beyond the first hundreds. */
const own = (latin: string, extended?: string): Script[] => [
  script(latin, bookRanges.latin),
  ...(extended ? [script(extended, bookRanges['latin-ext'])] : []),
];
const family = (regular: Script[], bold: Script[]) => ({
  regular: [...regular, ...others(false)],
  bold: [...bold, ...others(true)],
});

/** Each font's files, the most important first. */
const FONTS: Record<FontName, Record<'regular' | 'bold', readonly Script[]>> = {
  clear: family(own(clear, clearExt), own(clearBold, clearExtBold)),
  reader: family(own(reader, readerExt), own(readerBold, readerExtBold)),
  school: family(own(school, schoolExt), own(schoolBold, schoolExtBold)),
  book: family(own(book), own(bookBold)),
  dyslexia: family(own(dyslexia, clearExt), own(dyslexiaBold, clearExtBold)),
};

const loading = new Map<string, Promise<FontFile>>();

function load({ url }: Script): Promise<FontFile> {
  let file = loading.get(url);
  if (!file) {
    file = fetchFont(url);
    loading.set(url, file);
    // A network that comes back is asked again.
    file.catch(() => loading.delete(url));
  }
  return file;
}

async function fetchFont(url: string): Promise<FontFile> {
  const answer = await fetch(url).catch(() => null);
  if (!answer?.ok) throw new Error('The font cannot be loaded just now. Try again in a moment.');
  return new FontFile(await answer.arrayBuffer());
}

/** A font with all files that a text needs, and no others. @throws Error where one cannot be loaded */
export async function typefaceFor(text: string, font: FontName, isBold: boolean): Promise<Typeface> {
  const files = FONTS[font][isBold ? 'bold' : 'regular'];
  const needed = new Set([files[0]]);
  for (const letter of new Set(lettersOf(text))) {
    for (const file of files) {
      if (!file.covers(letter)) continue;
      needed.add(file);
      // A file may lack what its script has: then the next one is asked.
      if ((await load(file)).has(letter)) break;
    }
  }
  return new Typeface(await Promise.all(files.filter((file) => needed.has(file)).map(load)));
}
