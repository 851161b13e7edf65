import latinExt from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff2?url';
import latin from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff2?url';
import cyrillic from '@fontsource/literata/files/literata-cyrillic-700-normal.woff2?url';
import greek from '@fontsource/literata/files/literata-greek-700-normal.woff2?url';
import arabic from '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-700-normal.woff2?url';
import hebrew from '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-700-normal.woff2?url';
import { LETTER_FAMILIES, letterFont } from '@kite-trail/core/film/lettering';

const FILES: Record<keyof typeof LETTER_FAMILIES, [url: string, unicodeRange: string]> = {
  latin: [latin, 'U+0000-00FF, U+2000-206F, U+20AC, U+2122, U+2190-2193, U+2212'],
  latinExt: [latinExt, 'U+0100-02FF, U+1E00-1EFF'],
  greek: [greek, 'U+0370-03FF'],
  cyrillic: [cyrillic, 'U+0400-04FF'],
  hebrew: [hebrew, 'U+0590-05FF, U+FB1D-FB4F'],
  arabic: [arabic, 'U+0600-06FF, U+0750-077F, U+FB50-FDFF, U+FE70-FEFF'],
};

/** In a worker; the DOM types know only a page's. */
declare const self: { fonts: FontFaceSet };

/** Loads the fonts that texts need, from those that ship. */
export async function loadLetters(texts: readonly string[]): Promise<void> {
  for (const script of Object.keys(FILES) as (keyof typeof FILES)[]) {
    const [url, unicodeRange] = FILES[script];
    self.fonts.add(new FontFace(LETTER_FAMILIES[script], `url(${url})`, { weight: '700', unicodeRange }));
  }
  await self.fonts.load(letterFont(40), texts.join(' ')).catch(() => {});
}
