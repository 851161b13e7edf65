import { iso6392 } from 'iso-639-2';

/** How media files name a language (ISO 639-2, the codes for use in terminology), or nothing where they have no name for it. @param tag BCP 47 */
export function languageCodeOf(tag: string): string | undefined {
  const [primary] = tag.toLowerCase().split('-');
  const found = iso6392.find(({ iso6391, iso6392B, iso6392T }) => [iso6391, iso6392T, iso6392B].includes(primary));
  return found && (found.iso6392T ?? found.iso6392B);
}
