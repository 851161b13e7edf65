import { DEMO_COLLEAGUE, DEMO_TEACHER } from '../teachers';
import type { Account } from './stand-in';

/** Who has an account at the school: its teachers, and one whom nobody has invited to teach yet. */
export const ACCOUNTS: readonly Account[] = [
  ...[DEMO_TEACHER, DEMO_COLLEAGUE].map(({ name, email }, n) => ({
    subject: `teacher-${n}`,
    name,
    email,
    isVerified: true,
  })),
  { subject: 'harbour-office', name: 'Ida Holm', email: 'ida@sandhaven.example', isVerified: true },
];
