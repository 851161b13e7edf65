import { CARRIED_ID, type Carried } from '@kite-trail/core/contract/carried';

let read: Carried | null | undefined;

/** What the page carries; `null` for one that a school serves. */
export function carried(): Carried | null {
  if (read !== undefined) return read;
  const said = document.getElementById(CARRIED_ID);
  read = said ? (JSON.parse(said.textContent!) as Carried) : null;
  return read;
}

/** Something that the page carries. @throws Error where it has none of it */
export function carriedFile({ files }: Carried, path: string): Response {
  const found = files[path];
  if (!found) throw new Error('A part of this page is missing. Copy it again.');
  const bytes = Uint8Array.from(atob(found.base64), (letter) => letter.charCodeAt(0));
  return new Response(bytes, { headers: { 'content-type': found.type } });
}
