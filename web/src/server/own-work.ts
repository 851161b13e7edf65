import { studentSelf, type StudentSelf } from '@kite-trail/core/contract/student';
import {
  askedTask,
  begunReply,
  ownTasks,
  workPages,
  type AskedTask,
  type OwnTask,
} from '@kite-trail/core/contract/task';
import type { HandInId, LessonId, PageId, TaskId } from '@kite-trail/core/lesson/ids';
import { call } from './call';

const readBegun = async (response: Promise<Response>): Promise<LessonId> =>
  begunReply.parse(await (await response).json()).lesson;

/** The server as students' pages know it, beside what they share with teachers'. Every call throws `Refused` or `Unreachable`. */
export const ownWork = {
  comeIn: async (key: string): Promise<StudentSelf> =>
    studentSelf.parse(await (await call('POST', '/student-session', { key })).json()),
  tasks: async (): Promise<OwnTask[]> => ownTasks.parse(await (await call('GET', '/own-tasks')).json()),
  /** What they work on for a task: begun, unless it has been. */
  begin: (task: TaskId) => readBegun(call('POST', `/own-tasks/${task}/reply`)),
  explain: (title: string) => readBegun(call('POST', '/explanations', { title })),
  choose: (lesson: LessonId, choice: number | null) => call('PUT', `/works/${lesson}/choice`, { choice }),
  asked: async (code: string): Promise<AskedTask> =>
    askedTask.parse(await (await call('GET', `/asked/${code}`)).json()),
  comeAsGuest: (code: string, name: string) => call('POST', `/asked/${code}/guests`, { name }),
  takeBack: (lesson: LessonId) => call('DELETE', `/works/${lesson}/hand-in`),
  feedbackPages: async (handIn: HandInId): Promise<PageId[]> =>
    workPages.parse(await (await call('GET', `/feedback/${handIn}`)).json()).pages,
  answer: (handIn: HandInId, answer: string) => call('PUT', `/feedback/${handIn}/answer`, { answer }),
  see: (handIn: HandInId) => call('POST', `/feedback/${handIn}/seen`),
};

/** @param givenAt when it was given back: given back again, a page has another address */
export const feedbackPageUrl = (handIn: HandInId, page: PageId, givenAt: string): string =>
  `/api/feedback/${handIn}/pages/${page}/picture?of=${encodeURIComponent(givenAt)}`;
