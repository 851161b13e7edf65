import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { FontFile, Typeface } from '@kite-trail/core/typeset/typeface';

const { resolve } = createRequire(import.meta.url);

/** The demo's texts are Latin: one file has all their letters. */
export async function latinTypeface(): Promise<Typeface> {
  const name = '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff';
  return new Typeface([new FontFile(new Uint8Array(readFileSync(resolve(name))).buffer)]);
}
