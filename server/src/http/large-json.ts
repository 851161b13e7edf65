import { endTake, newTake } from '@kite-trail/core/contract/lesson';
import { keptPens } from '@kite-trail/core/contract/pens';
import type { z } from 'zod';
import { checked, jsonBytes, parsedJson, type Body } from './body';

/** In what a page may send thousands of things: to read and check them takes long. */
const FORMS = { endTake, keptPens, newTake };

type LargeForm = keyof typeof FORMS;
type LargeValue<Form extends LargeForm> = z.output<(typeof FORMS)[Form]>;

/** Reads JSON of a form. @throws RequestProblem when it is of another one */
export const readLargeJson = async ({ form, body }: { form: LargeForm; body: Uint8Array }): Promise<unknown> =>
  checked<unknown>(FORMS[form], parsedJson(body));

/** JSON of a form, which is read where nobody waits meanwhile. @throws RequestProblem as `json` */
export function largeJson<Form extends LargeForm>(form: Form, most: number): Body<LargeValue<Form>> {
  const bytes = jsonBytes(most);
  return {
    read: async (request, response, work) => {
      const body = await bytes.read(request, response, work);
      const read = await work.do('readLargeJson', request.session.teacherId!, { form, body }, body.length);
      return read as LargeValue<Form>;
    },
  };
}
