import { editLesson } from '@kite-trail/core/contract/lesson';
import type { Knex } from 'knex';
import type { z } from 'zod';
import { checked, parsedJson } from '../http/body';

/** An edition of thousands of segments and captions takes long to check. */
export const isLargeEdit = (body: Uint8Array): boolean => body.length > 128 * 1024;

/** Reads an edit as it was sent. @throws RequestProblem when it is none */
export const readEdit = async (_db: Knex, { body }: { body: Uint8Array }): Promise<z.output<typeof editLesson>> =>
  checked(editLesson, parsedJson(body));
