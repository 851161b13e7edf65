import { createRequire } from 'node:module';
import { LETTER_FAMILIES } from '@kite-trail/core/film/lettering';
import { GlobalFonts } from '@napi-rs/canvas';

/** The fonts that ship, as packages name their files. */
const FILES: Record<keyof typeof LETTER_FAMILIES, string> = {
  latin: 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff2',
  latinExt: 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff2',
  greek: 'literata/files/literata-greek-700-normal.woff2',
  cyrillic: 'literata/files/literata-cyrillic-700-normal.woff2',
  hebrew: 'noto-sans-hebrew/files/noto-sans-hebrew-hebrew-700-normal.woff2',
  arabic: 'noto-sans-arabic/files/noto-sans-arabic-arabic-700-normal.woff2',
};

const { resolve } = createRequire(import.meta.url);
let areLoaded = false;

/** Makes the fonts that ship known to whatever is painted here. */
export function loadLetters(): void {
  if (areLoaded) return;
  areLoaded = true;
  for (const script of Object.keys(FILES) as (keyof typeof FILES)[]) {
    GlobalFonts.registerFromPath(resolve(`@fontsource/${FILES[script]}`), LETTER_FAMILIES[script]);
  }
}
