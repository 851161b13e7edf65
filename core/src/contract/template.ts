import type { z } from 'zod';
import { pageState } from './lesson';
import { line, templateId } from './primitives';

const name = line.min(1, 'Give the template a name.').max(80, 'Use at most 80 letters.');

/** A page of a lesson, to be kept as a template. */
export const newTemplate = pageState.extend({ name });
/** A page a teacher starts pages from; what lies on it is asked for when one is started. */
export const template = newTemplate.omit({ pieces: true }).extend({ id: templateId });

export type Template = z.output<typeof template>;
