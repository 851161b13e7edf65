import { z } from 'zod';
import { editedFrom } from './edition';
import { takePlan } from './lesson';
import { assetId, lessonId, takeId } from './primitives';

const head = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('file'), asset: assetId, name: z.string().max(500) }),
  z.object({ kind: z.literal('changes'), revision: z.int() }),
  z.object({
    kind: z.literal('take'),
    take: takeId,
    hasSound: z.boolean(),
    plan: takePlan,
    revision: z.int().optional(),
    beganAtMs: z.number(),
  }),
  z.object({ kind: z.literal('part'), take: takeId, n: z.int().min(0) }),
  z.object({ kind: z.literal('end'), take: takeId, parts: z.int().min(0), recover: z.boolean(), plan: takePlan }),
  z.object({ kind: z.literal('profile'), take: takeId }),
  z.object({ kind: z.literal('name') }),
  z.object({ kind: z.literal('hand-in') }),
  z.object({ kind: z.literal('edit'), from: editedFrom }),
  z.object({ kind: z.literal('undo'), from: editedFrom }),
  z.object({ kind: z.literal('redo'), from: editedFrom }),
]);

/**
 * The list of what is in a file of work that was set aside, `set-aside.json` in its ZIP: each entry's place in the lesson, and
 * the names of the files in the ZIP that hold its payload.
 */
export const setAsideList = z.object({
  form: z.literal('set-aside'),
  version: z.literal(1),
  why: z.string(),
  lesson: lessonId,
  entries: z
    .array(
      z.object({ key: z.string().regex(/^[\w-]{8,64}$/), atMs: z.number(), head, payload: z.array(z.string()).max(2) }),
    )
    .min(1),
});
export type SetAsideList = z.output<typeof setAsideList>;
