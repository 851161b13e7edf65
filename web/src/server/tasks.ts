import { students, studentsKept, type Student } from '@kite-trail/core/contract/student';
import {
  classTasks,
  madeBeside,
  madeTask,
  markingTable,
  phrases,
  taskSummary,
  type broughtWork,
  type changeTask,
  type ClassTasks,
  type Marking,
  type MarkingTable,
  type newTask,
  type TaskSummary,
} from '@kite-trail/core/contract/task';
import type { ClassId, HandInId, LessonId, PageId, ReplyId, StudentId, TaskId } from '@kite-trail/core/lesson/ids';
import type { z } from 'zod';
import { call } from './call';

const readStudents = async (response: Promise<Response>): Promise<Student[]> =>
  students.parse(await (await response).json());

/** The server as it knows a teacher's students and tasks. Every call throws `Refused` or `Unreachable`. */
export const tasksApi = {
  students: (of: ClassId) => readStudents(call('GET', `/classes/${of}/students`)),
  addStudents: (to: ClassId, names: readonly string[]) =>
    readStudents(call('POST', `/classes/${to}/students`, { names })),
  renameStudent: (id: StudentId, name: string) => call('PUT', `/students/${id}`, { name }),
  renewKey: (id: StudentId) => call('POST', `/students/${id}/key`),
  dropStudent: (id: StudentId) => call('DELETE', `/students/${id}`),

  giveOut: async (lesson: LessonId, task: z.input<typeof newTask>): Promise<TaskId> =>
    madeTask.parse(await (await call('POST', `/lessons/${lesson}/tasks`, task)).json()).id,
  tasks: async (of: ClassId): Promise<ClassTasks> =>
    classTasks.parse(await (await call('GET', `/classes/${of}/tasks`)).json()),
  table: async (id: TaskId): Promise<MarkingTable> =>
    markingTable.parse(await (await call('GET', `/tasks/${id}`)).json()),
  changeTask: async (id: TaskId, to: z.input<typeof changeTask>): Promise<TaskSummary> =>
    taskSummary.parse(await (await call('PUT', `/tasks/${id}`, to)).json()),
  stop: (id: TaskId) => call('POST', `/tasks/${id}/stopping`),
  bring: async (id: TaskId, work: z.input<typeof broughtWork>): Promise<LessonId> =>
    madeBeside.parse(await (await call('POST', `/tasks/${id}/brought`, work)).json()).lesson,
  phrases: async (): Promise<string[]> => phrases.parse(await (await call('GET', '/phrases')).json()),
  keepPhrases: (kept: readonly string[]) => call('PUT', '/phrases', kept),
  layBeside: async (id: TaskId, replies: readonly ReplyId[], page: PageId | null): Promise<LessonId> =>
    madeBeside.parse(await (await call('POST', `/tasks/${id}/beside`, { replies, page })).json()).lesson,
  dropTask: (id: TaskId) => call('DELETE', `/tasks/${id}`),

  open: (id: HandInId) => call('POST', `/hand-ins/${id}/opening`),
  mark: (id: HandInId, marking: Marking) => call('PUT', `/hand-ins/${id}/marking`, marking),
  giveBack: (id: HandInId) => call('POST', `/hand-ins/${id}/giving-back`),
};

/** Of what is asked now, what is written. @param version as for `pageUrl` */
export const draftUrl = (reply: ReplyId, version: number): string => `/api/replies/${reply}/picture?of=${version}`;

/** All that is kept of a student. */
export const studentArchiveUrl = (id: StudentId): string => `/api/students/${id}/archive`;

/** How long what students made is kept after their class has ended. */
export const studentsKeptApi = {
  days: async (): Promise<number> => studentsKept.parse(await (await call('GET', '/school/students')).json()).keptDays,
  keep: (keptDays: number) => call('PUT', '/school/students', { keptDays }),
};

/** Where whoever has a task's code comes in. */
export const askedUrl = (code: string): string => `${location.origin}/student/ask/${code}`;

/** @param version what it is a picture of: another one makes another address */
export const pageUrl = (lesson: LessonId, page: PageId, version: number): string =>
  `/api/lessons/${lesson}/pages/${page}/picture?of=${version}`;
