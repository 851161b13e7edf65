import { z } from 'zod';
import { line } from './primitives';

const email = z.email('Write a full e-mail address.').max(200).toLowerCase();
const newPassword = z.string().min(10, 'Use at least 10 characters.').max(200, 'Use at most 200 characters.');

export const firstTeacher = z.object({
  /** Printed where the server was started. */
  code: z.string().max(40),
  name: line.min(1, 'Write your name.').max(80),
  email,
  password: newPassword,
});
export const credentials = z.object({ email, password: z.string().min(1, 'Write your password.').max(200) });

export const session = z.object({
  /** True until the first teacher has been set up. */
  needsFirstTeacher: z.boolean(),
  teacher: z.object({ id: z.string(), name: z.string(), email: z.string() }).nullable(),
});
export type Session = z.output<typeof session>;
