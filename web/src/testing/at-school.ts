import { vi } from 'vitest';
import { httpSchool } from '../outbox/http-school';
import type { School } from '../outbox/school';
import { api } from '../server/api';
import { useSession } from '../app/session';

/** Signs a teacher in at a school that answers as a test says. @returns what is asked of it */
export async function atSchool(send: School['send']) {
  const teacher = { id: 'teacher-one', name: 'Ada', email: 'ada@school.example', isKeeper: false };
  vi.spyOn(api, 'session').mockResolvedValue({
    needsFirstTeacher: false,
    schoolAccounts: null,
    teacher,
    student: null,
  });
  await useSession().load();
  return vi.spyOn(httpSchool, 'send').mockReset().mockImplementation(send);
}
