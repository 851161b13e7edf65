import type { StudentId, TeacherId } from '@kite-trail/core/lesson/ids';
import 'express-session';

declare module 'express-session' {
  interface SessionData {
    /** Whose it is: a teacher's, or a student's. */
    teacherId?: TeacherId;
    studentId?: StudentId;
    /** What the browser calls itself. */
    device?: string;
    /** When it was last written down that it is in use. */
    seenAt?: string;
  }
}
