import { newTemplate } from '@kite-trail/core/contract/template';
import { decodePieces } from '@kite-trail/core/formats/marks-coding';
import { filesOn } from '@kite-trail/core/lesson/files';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Page } from '@kite-trail/core/lesson/page';
import { checked, parsedJson } from '../http/body';

/** A page that is to be a template. */
export interface NewTemplate {
  name: string;
  page: Page;
  pieces: Uint8Array;
  /** The files on it. */
  files: AssetId[];
}

/** Reads a page that is to be a template. @throws RequestProblem when it is none; FormatError */
export async function readTemplate({ body }: { body: Uint8Array }): Promise<NewTemplate> {
  const { name, page, pieces } = checked(newTemplate, parsedJson(body));
  const bytes = new Uint8Array(Buffer.from(pieces, 'base64'));
  const files = filesOn({ page, pieces: decodePieces(bytes) }).map(({ asset }) => asset);
  return { name, page, pieces: bytes, files: [...new Set(files)] };
}
