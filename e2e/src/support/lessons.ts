import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Watch } from '@kite-trail/core/contract/watch';
import { decodePieces } from '@kite-trail/core/formats/marks-coding';
import type { Picture, Piece } from '@kite-trail/core/lesson/piece';
import type { Person } from './browser';

/** The lesson a person has open, as the server has it. */
export const openLesson = (person: Person): Promise<LessonDocument> =>
  person.request('GET', `/lessons/${new URL(person.page.url()).pathname.split('/')[2]}`);

/** The pieces of the open lesson's first page, as the server has them. */
export async function piecesOn(person: Person): Promise<Piece[]> {
  const { pages } = await openLesson(person);
  return decodePieces(Buffer.from(pages[0].pieces, 'base64'));
}

export const picturesOf = ({ pages }: LessonDocument, n: number): Picture[] =>
  decodePieces(Buffer.from(pages[n].pieces, 'base64')).filter((piece) => piece.kind === 'picture');

/** The colour the page shows at a part (0 to 1) of its width and height. */
export const colorAt = (person: Person, u: number, v: number): Promise<number[]> =>
  person.page.evaluate(
    (x, y) => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas.settled')!;
      const surface = canvas.getContext('2d')!;
      return [...surface.getImageData(Math.round(x * canvas.width), Math.round(y * canvas.height), 1, 1).data];
    },
    u,
    v,
  );

/** What the server gives this person from an address, as bytes. */
export async function bytesAt(person: Person, path: string): Promise<Uint8Array> {
  const bytes = await person.page.evaluate(
    async (from) => [...new Uint8Array(await (await fetch(`/api${from}`)).arrayBuffer())],
    path,
  );
  return Uint8Array.from(bytes);
}

/** Where all is that a link leads to just now. */
export async function publishedAt(person: Person, token: string): Promise<string> {
  const { publication } = await person.request<Watch>('GET', `/watch/${token}`);
  return `/watch/${token}/publications/${publication}`;
}

/** The marks of the open lesson's first take, as the server has them. */
export async function takeMarks(person: Person): Promise<Uint8Array> {
  const { takes } = await openLesson(person);
  return bytesAt(person, `/takes/${takes[0].id}/marks`);
}

/** Opens what of Share is for other programs. */
export async function openElsewhere({ page }: Person): Promise<void> {
  await page.locator('summary ::-p-text(Pictures, sound, words, ink)').click();
}
