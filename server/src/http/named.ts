import { assetId } from '@kite-trail/core/contract/primitives';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Request } from 'express';
import { notFound } from './problem';

/** The file a request names. @throws RequestProblem when it is none */
export function assetOf(request: Request): AssetId {
  const id = assetId.safeParse(request.params.asset);
  if (!id.success) throw notFound('file');
  return id.data;
}

/** What databases keep as whole numbers. */
const MOST_COUNTED = 2 ** 31 - 1;

/** A number from 0 on, as addresses name parts and pages. @throws RequestProblem when it is none */
export function countOf(param: unknown, what: string): number {
  const count = Number(param);
  if (!Number.isInteger(count) || count < 0 || count > MOST_COUNTED) throw notFound(what);
  return count;
}
