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
import type { FontName } from '@kite-trail/core/lesson/content';

interface Files {
  regular: readonly string[];
  bold: readonly string[];
}

const files = (regular: string[], bold: string[]): Files => ({
  regular: [...regular, greek, cyrillic, bookExt],
  bold: [...bold, greekBold, cyrillicBold, bookExtBold],
});

/** Each font's files, and those that letters come from which it does not have. */
export const FONT_FILES: Record<FontName, Files> = {
  clear: files([clear, clearExt], [clearBold, clearExtBold]),
  reader: files([reader, readerExt], [readerBold, readerExtBold]),
  school: files([school, schoolExt], [schoolBold, schoolExtBold]),
  book: files([book], [bookBold]),
  dyslexia: files([dyslexia, clearExt], [dyslexiaBold, clearExtBold]),
};
