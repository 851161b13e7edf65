import { z } from 'zod';
import { line, teacherId } from './primitives';
import { studentSelf } from './student';

const email = z.email('Write a full e-mail address.').max(200).toLowerCase();
const newPassword = z.string().min(10, 'Use at least 10 characters.').max(200, 'Use at most 200 characters.');
const password = z.string().min(1, 'Write your password.').max(200);
const name = line.min(1, 'Write your name.').max(80);

export const firstTeacher = z.object({
  /** Printed where the server was started. */
  code: z.string().max(40),
  name,
  email,
  password: newPassword,
});
export const credentials = z.object({ email, password });

export const session = z.object({
  /** True until the first teacher has been set up. */
  needsFirstTeacher: z.boolean(),
  /** What teachers call the school's accounts by which they sign in; `null` where there are none. */
  schoolAccounts: z.string().nullable(),
  teacher: z.object({ id: z.string(), name: z.string(), email: z.string(), isKeeper: z.boolean() }).nullable(),
  /** Whoever has come in by a student's key. */
  student: studentSelf.nullable(),
});
export type Session = z.output<typeof session>;

/** By the school's accounts, with a ticket where somebody joins; and where they say who they are. */
export const schoolSignIn = z.object({ ticket: z.string().max(80).nullable() });
export const schoolDoor = z.object({ address: z.url() });

/** Somebody signed in on a device. */
export const signIn = z.object({
  id: z.string(),
  /** What the browser calls itself. */
  device: z.string(),
  signedInAt: z.iso.datetime(),
  seenAt: z.iso.datetime(),
  /** Whether it is the one that asks. */
  isThis: z.boolean(),
});
export type SignIn = z.output<typeof signIn>;
export const signIns = z.array(signIn);

/** Who a teacher is; the password is the present one. */
export const changeAccount = z.object({ name, email, password });
export const changePassword = z.object({ password, newPassword });
export const deleteAccount = z.object({ password });

/** A teacher, as others see them. */
export const teacherName = z.object({ id: teacherId, name: z.string() });
export type TeacherName = z.output<typeof teacherName>;

/** A teacher, as the keepers of the school see them. */
export const colleague = z.object({
  id: teacherId,
  name: z.string(),
  email: z.string(),
  isKeeper: z.boolean(),
  /** Whoever is shut out cannot sign in; their work is kept, and their links go on. */
  isShutOut: z.boolean(),
  /** When they were last seen; `null` where they are signed in nowhere. */
  seenAt: z.iso.datetime().nullable(),
});
export type Colleague = z.output<typeof colleague>;
export const colleagues = z.array(colleague);
export const changeColleague = z.object({ isKeeper: z.boolean(), isShutOut: z.boolean() });

/** A code that lets somebody in once. Whose password it sets anew, or `null` where it makes a new teacher. */
export const newTicket = z.object({ teacher: teacherId.nullable() });
const ticketCode = z.string().max(60);
export const ticket = z.object({ code: ticketCode, endsAt: z.iso.datetime() });
export type Ticket = z.output<typeof ticket>;

export const readTicket = z.object({ code: ticketCode });
/** Whose password it sets anew; `null` where it makes a new teacher. */
export const ticketHolder = z.object({ name: z.string().nullable() });
export const joinSchool = z.object({ code: ticketCode, name, email, password: newPassword });
export const resetPassword = z.object({ code: ticketCode, password: newPassword });
