import { wrap, type Remote } from 'comlink';
import type { Drawing } from '@kite-trail/core/drawing/drawing';
import type { Contents, TextStyle } from '@kite-trail/core/lesson/content';
import type { Typesetter } from '../workers/typeset.worker';
import TypesetWorker from '../workers/typeset.worker?worker';

let worker: Remote<Typesetter> | null = null;
/** The worker begins when it is first needed. */
const remote = (): Remote<Typesetter> => (worker ??= wrap<Typesetter>(new TypesetWorker()));
/** What Vue watches cannot be sent as it is. */
const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** Sets type in a worker. */
export const typesetter = {
  text: (text: string, style: TextStyle, wrapPt: number | null): Promise<{ drawing: Drawing; missing: string[] }> =>
    remote().text(text, plain(style), wrapPt),
  formula: (content: Contents['formula']): Promise<Drawing> => remote().formula(plain(content)),
  plot: (content: Contents['plot']): Promise<Drawing> => remote().plot(plain(content)),
};
