import type { TeacherId } from '@kite-trail/core/lesson/ids';
import 'express-session';

declare module 'express-session' {
  interface SessionData {
    teacherId?: TeacherId;
    /** What the browser calls itself. */
    device?: string;
    /** When it was last written down that it is in use. */
    seenAt?: string;
  }
}
