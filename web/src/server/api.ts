import { session, type Session } from '@kite-trail/core/contract/account';
import { editState, type EditedFrom, type EditState } from '@kite-trail/core/contract/edition';
import {
  changed,
  lesson,
  lessonSummary,
  type changeLesson,
  type LessonDocument,
  type LessonSummary,
} from '@kite-trail/core/contract/lesson';
import { assetId } from '@kite-trail/core/contract/primitives';
import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import { keptPens, type KeptPens } from '@kite-trail/core/contract/pens';
import { template, type newTemplate, type Template } from '@kite-trail/core/contract/template';
import { problem } from '@kite-trail/core/contract/watch';
import type { AssetId, LessonId, TakeId, TemplateId, VersionId } from '@kite-trail/core/lesson/ids';
import type { TakePlan } from '@kite-trail/core/trail/plan';
import type { Edition } from '@kite-trail/core/trail/edition';
import { nanoid } from 'nanoid';
import { z } from 'zod';

/** The server refused, with a message for the teacher. */
export class Refused extends Error {
  override readonly name = 'Refused';

  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {
  override readonly name = 'Unreachable';

  constructor() {
    super('The server cannot be reached. Your work is kept on this device and goes on when the network is back.');
  }
}

interface NewTake {
  lesson: LessonId;
  id: TakeId;
  hasSound: boolean;
  plan: TakePlan;
}

/** Tells this window's own changes from those of others. */
export const WINDOW_ID = nanoid(12);

/** What each request says of who sends it. */
const OURS = { [PROTOCOL.header]: String(PROTOCOL.version), 'x-window': WINDOW_ID };

async function call(
  method: string,
  path: string,
  body?: unknown,
  more: Record<string, string> = {},
): Promise<Response> {
  const binary = body instanceof Uint8Array || body instanceof Blob;
  const headers: Record<string, string> = { ...OURS, ...more };
  if (body !== undefined) headers['content-type'] = binary ? 'application/octet-stream' : 'application/json';
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers,
      body: body === undefined ? undefined : binary ? (body as Blob) : JSON.stringify(body),
    });
  } catch {
    throw new Unreachable();
  }
  if (response.ok) return response;
  if (response.status >= 502 && response.status <= 504) throw new Unreachable();
  const told = problem.safeParse(await response.json().catch(() => null));
  throw new Refused(
    response.status,
    told.data?.code ?? 'server',
    told.data?.message ?? 'The server could not do this. Try again.',
  );
}

const readLesson = async (response: Promise<Response>): Promise<LessonDocument> =>
  lesson.parse(await (await response).json());
const readEdit = async (response: Promise<Response>): Promise<EditState> =>
  editState.parse(await (await response).json());
const readSession = async (response: Promise<Response>): Promise<Session> =>
  session.parse(await (await response).json());
const bytesOf = async (response: Promise<Response>) => new Uint8Array(await (await response).arrayBuffer());

/** The server as the teacher's pages know it. Every call throws `Refused` or `Unreachable`. */
export const api = {
  session: () => readSession(call('GET', '/session')),
  signIn: (credentials: { email: string; password: string }) => readSession(call('POST', '/session', credentials)),
  addFirstTeacher: (account: { name: string; email: string; password: string }) =>
    readSession(call('POST', '/first-teacher', account)),
  signOut: () => call('DELETE', '/session'),

  lessons: async (): Promise<LessonSummary[]> =>
    z.array(lessonSummary).parse(await (await call('GET', '/lessons')).json()),
  makeLesson: (title: string, className: string) => readLesson(call('POST', '/lessons', { title, className })),
  lesson: (id: LessonId) => readLesson(call('GET', `/lessons/${id}`)),
  copyLesson: (id: LessonId) => readLesson(call('POST', `/lessons/${id}/copy`)),
  rename: (id: LessonId, title: string, className: string) => call('PUT', `/lessons/${id}/name`, { title, className }),
  changeLesson: async (id: LessonId, changes: z.input<typeof changeLesson>): Promise<z.output<typeof changed>> =>
    changed.parse(await (await call('POST', `/lessons/${id}/changes`, changes)).json()),
  addFile: async (id: LessonId, name: string, file: Blob): Promise<AssetId> => {
    const answer = await call('POST', `/lessons/${id}/assets`, file, { 'x-file-name': encodeURIComponent(name) });
    return z.object({ asset: assetId }).parse(await answer.json()).asset;
  },
  lessonFile: async (id: LessonId, asset: AssetId): Promise<Blob> =>
    (await call('GET', `/lessons/${id}/assets/${asset}`)).blob(),
  keepSheetPicture: (id: LessonId, pdf: AssetId, pageIndex: number, picture: Blob) =>
    call('PUT', `/lessons/${id}/assets/${pdf}/pages/${pageIndex}`, picture),

  pens: async (): Promise<KeptPens> => keptPens.parse(await (await call('GET', '/pens')).json()),
  keepPens: (pens: KeptPens) => call('PUT', '/pens', pens),
  templates: async (): Promise<Template[]> => z.array(template).parse(await (await call('GET', '/templates')).json()),
  keepTemplate: async (id: LessonId, page: z.input<typeof newTemplate>): Promise<Template> =>
    template.parse(await (await call('POST', `/lessons/${id}/templates`, page)).json()),
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
  beginTake: ({ lesson: of, id, hasSound, plan }: NewTake) =>
    call('POST', `/lessons/${of}/takes`, { id, hasSound, plan }),
  keptParts: async (take: TakeId): Promise<number[]> =>
    z.object({ parts: z.array(z.number()) }).parse(await (await call('GET', `/takes/${take}/parts`)).json()).parts,
  keepPart: (take: TakeId, n: number, bytes: Uint8Array) => call('PUT', `/takes/${take}/parts/${n}`, bytes),
  endTake: (take: TakeId, end: { parts: number; recover: boolean; plan?: TakePlan }) =>
    readLesson(call('POST', `/takes/${take}/end`, end)),
  nameTake: (take: TakeId, name: string) => readLesson(call('PUT', `/takes/${take}/name`, { name })),
  binTake: (take: TakeId) => readLesson(call('PUT', `/takes/${take}/bin`)),
  unbinTake: (take: TakeId) => readLesson(call('DELETE', `/takes/${take}/bin`)),
  keepProfile: (take: TakeId, bytes: Uint8Array) => call('PUT', `/takes/${take}/profile`, bytes),
  takeMarks: (take: TakeId) => bytesOf(call('GET', `/takes/${take}/marks`)),

  edit: (id: LessonId, from: EditedFrom, edition: Edition) =>
    readEdit(call('PUT', `/lessons/${id}/edition`, { from, edition })),
  undoEdit: (id: LessonId) => readEdit(call('POST', `/lessons/${id}/edition/undo`)),
  redoEdit: (id: LessonId) => readEdit(call('POST', `/lessons/${id}/edition/redo`)),
  keepVersion: (id: LessonId, name: string) => readLesson(call('POST', `/lessons/${id}/versions`, { name })),
  useVersion: (id: LessonId, version: VersionId) => readLesson(call('POST', `/lessons/${id}/versions/${version}/use`)),
  dropVersion: (id: LessonId, version: VersionId) => readLesson(call('DELETE', `/lessons/${id}/versions/${version}`)),
  publish: (id: LessonId, programmeN: number, sound: Blob | null) =>
    readLesson(call('POST', `/lessons/${id}/publications/${programmeN}`, sound ?? undefined)),
  withdraw: (id: LessonId) => readLesson(call('DELETE', `/lessons/${id}/link`)),
};

export const fileUrl = (id: LessonId, asset: AssetId): string => `/api/lessons/${id}/assets/${asset}`;
export const sheetPictureUrl = (id: LessonId, pdf: AssetId, pageIndex: number): string =>
  `${fileUrl(id, pdf)}/pages/${pageIndex}`;
export const templatePictureUrl = (id: TemplateId): string => `/api/templates/${id}/picture`;
export const newsUrl = (id: LessonId): string => `/api/lessons/${id}/news?window=${WINDOW_ID}`;
export const takeProfileUrl = (take: TakeId): string => `/api/takes/${take}/profile`;
export const takeSoundUrl = (take: TakeId): string => `/api/takes/${take}/sound`;
export const pictureUrl = (one: LessonSummary): string => `/api/lessons/${one.id}/picture?v=${one.pictureVersion}`;
export const watchUrl = (token: string): string => `${location.origin}/w/${token}`;
