import {
  colleagues,
  schoolDoor,
  session,
  signIns,
  teacherName,
  ticket,
  ticketHolder,
  type changeAccount,
  type changeColleague,
  type changePassword,
  type Colleague,
  type firstTeacher,
  type joinSchool,
  type resetPassword,
  type Session,
  type SignIn,
  type TeacherName,
  type Ticket,
} from '@kite-trail/core/contract/account';
import {
  schoolClass,
  type ClassAbout,
  type newClass,
  type Placing,
  type SchoolClass,
} from '@kite-trail/core/contract/class';
import { lessonWanted, type ArchivedLesson, type LessonWanted } from '@kite-trail/core/contract/archive';
import { listedLesson, type ListedLesson } from '@kite-trail/core/contract/catalogue';
import { LIVE_KEY_HEADER, livePage, shownFiles, type LivePage } from '@kite-trail/core/contract/live';
import { link, madeLink, type ChangedLink, type Link, type NewLink } from '@kite-trail/core/contract/link';
import type { newPublication } from '@kite-trail/core/contract/upload';
import {
  lesson,
  lessonSummary,
  type LessonAbout,
  type LessonDocument,
  type LessonSummary,
} from '@kite-trail/core/contract/lesson';
import { recording, space, type RecordingSummary, type Space } from '@kite-trail/core/contract/overview';
import { together, type Together } from '@kite-trail/core/contract/together';
import { mails, type Mails, type NewMails } from '@kite-trail/core/contract/mail';
import { question, recordedAnswer, type Question } from '@kite-trail/core/contract/question';
import { insight, schoolCounting, type Insight } from '@kite-trail/core/contract/visit';
import { found, type Found } from '@kite-trail/core/contract/search';
import { assetId, classId } from '@kite-trail/core/contract/primitives';
import { keptPens, type KeptPens } from '@kite-trail/core/contract/pens';
import { template, type newTemplate, type Template } from '@kite-trail/core/contract/template';
import type { FileUse } from '@kite-trail/core/lesson/files';
import type { AssetId, ClassId, LessonId, TakeId, TeacherId, TemplateId, VersionId } from '@kite-trail/core/lesson/ids';
import { z } from 'zod';
import { call, OURS, WINDOW_ID } from './call';

const readLesson = async (response: Promise<Response>): Promise<LessonDocument> =>
  lesson.parse(await (await response).json());
const readSession = async (response: Promise<Response>): Promise<Session> =>
  session.parse(await (await response).json());
const readLinks = async (response: Promise<Response>): Promise<Link[]> =>
  z.array(link).parse(await (await response).json());
const readQuestions = async (response: Promise<Response>): Promise<Question[]> =>
  z.array(question).parse(await (await response).json());
const readMails = async (response: Promise<Response>): Promise<Mails> => mails.parse(await (await response).json());
const bytesOf = async (response: Promise<Response>) => new Uint8Array(await (await response).arrayBuffer());

/** The server as the teacher's pages know it. Every call throws `Refused` or `Unreachable`. */
export const api = {
  session: () => readSession(call('GET', '/session')),
  /** Where somebody says who they are, to the school's accounts. @param ticket where they join */
  schoolDoor: async (ticket: string | null): Promise<string> =>
    schoolDoor.parse(await (await call('POST', '/school-sign-in', { ticket })).json()).address,
  signIn: (credentials: { email: string; password: string }) => readSession(call('POST', '/session', credentials)),
  addFirstTeacher: (account: z.input<typeof firstTeacher>) => readSession(call('POST', '/first-teacher', account)),
  signOut: () => call('DELETE', '/session'),
  readTicket: async (code: string): Promise<z.output<typeof ticketHolder>> =>
    ticketHolder.parse(await (await call('POST', '/tickets/reading', { code })).json()),
  join: (account: z.input<typeof joinSchool>) => readSession(call('POST', '/tickets/joining', account)),
  resetPassword: (password: z.input<typeof resetPassword>) => readSession(call('POST', '/tickets/resetting', password)),

  changeAccount: (account: z.input<typeof changeAccount>) => readSession(call('PUT', '/account', account)),
  changePassword: (passwords: z.input<typeof changePassword>) => call('PUT', '/account/password', passwords),
  deleteAccount: (password: string) => call('POST', '/account/deletion', { password }),
  signIns: async (): Promise<SignIn[]> => signIns.parse(await (await call('GET', '/account/sign-ins')).json()),
  endSignIn: (id: string) => call('DELETE', `/account/sign-ins/${id}`),
  endOtherSignIns: () => call('DELETE', '/account/sign-ins'),

  colleagues: async (): Promise<Colleague[]> => colleagues.parse(await (await call('GET', '/teachers')).json()),
  changeColleague: async (id: TeacherId, change: z.input<typeof changeColleague>): Promise<Colleague[]> =>
    colleagues.parse(await (await call('PUT', `/teachers/${id}`, change)).json()),
  /** The school's other teachers. */
  others: async (): Promise<TeacherName[]> =>
    z.array(teacherName).parse(await (await call('GET', '/colleagues')).json()),
  together: async (id: LessonId): Promise<Together> =>
    together.parse(await (await call('GET', `/lessons/${id}/colleagues`)).json()),
  workWith: (id: LessonId, colleagues: readonly TeacherId[]) =>
    call('PUT', `/lessons/${id}/colleagues`, { colleagues }),
  leaveLesson: (id: LessonId) => call('DELETE', `/lessons/${id}/colleagues/me`),
  handOver: (lessons: readonly LessonId[], to: TeacherId) => call('POST', '/handing', { lessons, to }),
  makeTicket: async (teacher: TeacherId | null): Promise<Ticket> =>
    ticket.parse(await (await call('POST', '/tickets', { teacher })).json()),

  /** Shows a page of the lesson live, from this window. */
  beginLive: async (id: LessonId): Promise<LivePage> =>
    livePage.parse(await (await call('POST', `/lessons/${id}/live`)).json()),
  endLive: () => call('DELETE', '/live'),
  /** Lets those who follow fetch files. @returns those that the school has not got yet */
  letBeSeen: async (token: string, key: string, files: readonly FileUse[]): Promise<FileUse[]> =>
    shownFiles.parse(await (await call('POST', `/followed/${token}/files`, files, { [LIVE_KEY_HEADER]: key })).json()),

  lessons: async (): Promise<LessonSummary[]> =>
    z.array(lessonSummary).parse(await (await call('GET', '/lessons')).json()),
  makeLesson: (title: string, classes: readonly ClassId[] = []) =>
    readLesson(call('POST', '/lessons', { title, classes })),
  duplicateLesson: (id: LessonId) => readLesson(call('POST', `/lessons/${id}/duplicate`)),
  sayAbout: (id: LessonId, about: LessonAbout) => call('PUT', `/lessons/${id}/about`, about),
  renameLesson: (id: LessonId, title: string) => call('PUT', `/lessons/${id}/name`, { title }),
  binLessons: (lessons: readonly LessonId[], isBinned: boolean) => call('POST', '/binning', { lessons, isBinned }),
  dropLesson: (id: LessonId) => call('DELETE', `/lessons/${id}`),
  favour: (lessons: readonly LessonId[], isFavourite: boolean) => call('POST', '/favourites', { lessons, isFavourite }),

  recordings: async (): Promise<RecordingSummary[]> =>
    z.array(recording).parse(await (await call('GET', '/recordings')).json()),
  space: async (): Promise<Space> => space.parse(await (await call('GET', '/space')).json()),
  search: async (asked: string): Promise<Found> =>
    found.parse(await (await call('GET', `/search?for=${encodeURIComponent(asked)}`)).json()),

  classes: async (): Promise<SchoolClass[]> => z.array(schoolClass).parse(await (await call('GET', '/classes')).json()),
  makeClass: async (about: z.input<typeof newClass>): Promise<ClassId> =>
    z.object({ id: classId }).parse(await (await call('POST', '/classes', about)).json()).id,
  changeClass: (id: ClassId, about: ClassAbout) => call('PUT', `/classes/${id}`, about),
  dropClass: (id: ClassId) => call('DELETE', `/classes/${id}`),
  orderClasses: (classes: readonly ClassId[]) => call('PUT', '/classes', { classes }),
  placeLessons: (placing: Placing) => call('POST', '/placing', placing),
  lesson: (id: LessonId) => readLesson(call('GET', `/lessons/${id}`)),
  copyLesson: (id: LessonId) => readLesson(call('POST', `/lessons/${id}/copy`)),
  lessonFile: async (id: LessonId, asset: AssetId): Promise<Blob> =>
    (await call('GET', `/lessons/${id}/assets/${asset}`)).blob(),
  keepSheetPicture: (id: LessonId, pdf: AssetId, pageIndex: number, picture: Blob) =>
    call('PUT', `/lessons/${id}/assets/${pdf}/pages/${pageIndex}`, picture),

  pens: async (): Promise<KeptPens> => keptPens.parse(await (await call('GET', '/pens')).json()),
  keepPens: (pens: KeptPens) => call('PUT', '/pens', pens),
  templates: async (): Promise<Template[]> => z.array(template).parse(await (await call('GET', '/templates')).json()),
  keepTemplate: async (id: LessonId, page: z.input<typeof newTemplate>): Promise<Template> =>
    template.parse(await (await call('POST', `/lessons/${id}/templates`, page)).json()),
  templatePieces: (id: TemplateId) => bytesOf(call('GET', `/templates/${id}/pieces`)),
  lendFiles: (id: LessonId, from: TemplateId) => call('POST', `/lessons/${id}/templates/${from}/files`),
  dropTemplate: (id: TemplateId) => call('DELETE', `/templates/${id}`),

  undrawn: async (id: LessonId): Promise<{ asset: AssetId; pageIndex: number }[]> =>
    z
      .array(z.object({ asset: assetId, pageIndex: z.number() }))
      .parse(await (await call('GET', `/lessons/${id}/undrawn`)).json()),

  /** Keeps other windows from recording the lesson meanwhile. */
  claimRecording: (id: LessonId) => call('POST', `/lessons/${id}/recording`),
  releaseRecording: (id: LessonId) => call('DELETE', `/lessons/${id}/recording`),
  /** The same from a window that is being closed. */
  releaseOnLeaving: (id: LessonId): void =>
    void fetch(`/api/lessons/${id}/recording`, {
      method: 'DELETE',
      keepalive: true,
      headers: OURS,
    }),
  /** Keeps what the server has of a take that broke off on a device that is not here. */
  keepBeginning: (take: TakeId) => readLesson(call('POST', `/takes/${take}/beginning`)),
  nameTake: (take: TakeId, name: string) => readLesson(call('PUT', `/takes/${take}/name`, { name })),
  binTake: (take: TakeId) => readLesson(call('PUT', `/takes/${take}/bin`)),
  unbinTake: (take: TakeId) => readLesson(call('DELETE', `/takes/${take}/bin`)),
  takeMarks: (take: TakeId) => bytesOf(call('GET', `/takes/${take}/marks`)),

  keepVersion: (id: LessonId, name: string) => readLesson(call('POST', `/lessons/${id}/versions`, { name })),
  useVersion: (id: LessonId, version: VersionId) => readLesson(call('POST', `/lessons/${id}/versions/${version}/use`)),
  dropVersion: (id: LessonId, version: VersionId) => readLesson(call('DELETE', `/lessons/${id}/versions/${version}`)),
  publish: (id: LessonId, programmeN: number, about: z.input<typeof newPublication>) =>
    readLesson(call('POST', `/lessons/${id}/publications/${programmeN}`, about)),
  links: (id: LessonId) => readLinks(call('GET', `/lessons/${id}/links`)),
  makeLink: async (id: LessonId, link: NewLink) =>
    madeLink.parse(await (await call('POST', `/lessons/${id}/links`, link)).json()),
  changeLink: (id: LessonId, token: string, to: ChangedLink) =>
    readLinks(call('PUT', `/lessons/${id}/links/${token}`, to)),
  setPasscode: (id: LessonId, token: string, passcode: string | null) =>
    readLinks(call('PUT', `/lessons/${id}/links/${token}/passcode`, { passcode })),
  withdrawLink: (id: LessonId, token: string) => readLinks(call('DELETE', `/lessons/${id}/links/${token}`)),
  mails: (id: LessonId) => readMails(call('GET', `/lessons/${id}/mails`)),
  sendMails: (id: LessonId, token: string, letters: NewMails) =>
    readMails(call('POST', `/lessons/${id}/links/${token}/mails`, letters)),
  dropMail: (id: LessonId, letter: string) => readMails(call('DELETE', `/lessons/${id}/mails/${letter}`)),
  insight: async (id: LessonId): Promise<Insight> =>
    insight.parse(await (await call('GET', `/lessons/${id}/insight`)).json()),
  countLesson: (id: LessonId, isCounted: boolean) => call('PUT', `/lessons/${id}/counting`, { isCounted }),
  forgetCounts: (id: LessonId) => call('DELETE', `/lessons/${id}/insight`),
  isSchoolCounting: async (): Promise<boolean> =>
    schoolCounting.parse(await (await call('GET', '/school/counting')).json()).isCounting,
  countSchool: (isCounting: boolean) => call('PUT', '/school/counting', { isCounting }),
  questions: (id: LessonId) => readQuestions(call('GET', `/lessons/${id}/questions`)),
  answerQuestion: (id: LessonId, asked: string, answer: string) =>
    readQuestions(call('PUT', `/lessons/${id}/questions/${asked}`, { answer })),
  /** @returns the lesson in which it is answered by a recording, made now or before */
  answerByRecording: async (id: LessonId, asked: string): Promise<LessonId> =>
    recordedAnswer.parse(await (await call('POST', `/lessons/${id}/questions/${asked}/recording`)).json()).lesson,
  dropQuestion: (id: LessonId, asked: string) => readQuestions(call('DELETE', `/lessons/${id}/questions/${asked}`)),
  renewClassPage: (id: ClassId) => call('POST', `/classes/${id}/page`),
  closeClassPage: (id: ClassId) => call('DELETE', `/classes/${id}/page`),

  catalogue: async (): Promise<ListedLesson[]> =>
    z.array(listedLesson).parse(await (await call('GET', '/catalogue')).json()),
  favourListed: (token: string, isFavourite: boolean) => call('PUT', `/catalogue/${token}/favourite`, { isFavourite }),
  /** Whether a lesson of an archive is here, and which of its assets are not. */
  arriving: async (lesson: LessonId, assets: readonly AssetId[]): Promise<LessonWanted> =>
    lessonWanted.parse(await (await call('POST', '/archives/wanted', { lesson, assets })).json()),
  /** Makes a lesson of an archived one, whose assets have been sent. */
  bringLesson: (lesson: ArchivedLesson, isCopy: boolean, classes: readonly ClassId[]) =>
    readLesson(call('POST', '/archives/lessons', { lesson, isCopy, classes })),
  /** How large an archive of a lesson is. */
  archiveBytes: async (id: LessonId): Promise<number> =>
    Number((await call('HEAD', `/lessons/${id}/archive`)).headers.get('content-length')),
  copyListed: (token: string) => readLesson(call('POST', `/catalogue/${token}/copy`)),
};

export const OWN_DATA_URL = '/api/account/data';
export const lessonArchiveUrl = (id: LessonId): string => `/api/lessons/${id}/archive`;
export const classArchiveUrl = (id: ClassId): string => `/api/classes/${id}/archive`;
export const archiveUrl = (lessons: readonly LessonId[]): string => `/api/archive?lessons=${lessons.join(',')}`;
export const fileUrl = (id: LessonId, asset: AssetId): string => `/api/lessons/${id}/assets/${asset}`;
export const sheetPictureUrl = (id: LessonId, pdf: AssetId, pageIndex: number): string =>
  `${fileUrl(id, pdf)}/pages/${pageIndex}`;
export const templatePictureUrl = (id: TemplateId): string => `/api/templates/${id}/picture`;
export const newsUrl = (id: LessonId): string => `/api/lessons/${id}/news?window=${WINDOW_ID}`;
export const takeProfileUrl = (take: TakeId): string => `/api/takes/${take}/profile`;
export const takeSoundUrl = (take: TakeId): string => `/api/takes/${take}/sound`;
export const pictureUrl = (one: Pick<LessonSummary, 'id' | 'pictureVersion'>): string =>
  `/api/lessons/${one.id}/picture?v=${one.pictureVersion}`;
export const watchUrl = (token: string): string => `${location.origin}/w/${token}`;
export const publishedPictureUrl = (token: string, publication: string): string =>
  `/api/watch/${token}/publications/${publication}/picture`;
export const classPageUrl = (token: string): string => `${location.origin}/c/${token}`;
