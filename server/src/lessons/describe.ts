import type { EditState } from '@kite-trail/core/contract/edition';
import { readForm } from '@kite-trail/core/contract/forms';
import type { LessonDocument, PageDocument, TakeSummary } from '@kite-trail/core/contract/lesson';
import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { LessonRow, ProgrammeRow, PublicationRow, TakePartRow, TakeRow } from '../database/rows';
import { notFound } from '../http/problem';
import type { Telling } from '../http/route';
import { currentCheck } from '../links/links';
import { mainLink } from '../links/live';
import { currentEdit, currentEdition } from './editions';
import { aboutOf, writtenBytes, writtenPages } from './lessons';
import { listVersions } from './versions';

const telling =
  (job: 'describeLesson' | 'describeEdit'): Telling<LessonId> =>
  async (lesson, { db, work, owner }) =>
    work.do(job, owner, { lesson, reader: owner }, await writtenBytes(db, lesson));

/** Answers with all of a lesson as it is now, such as after what was asked for has been done. */
export const tellLesson = telling('describeLesson');
/** Answers with a lesson's edition as it is now. */
export const tellEdit = telling('describeEdit');

/** JSON of all of a lesson that its teacher's screen needs. @throws RequestProblem when it has gone */
export const describeLesson = (
  db: Knex,
  { lesson, reader }: { lesson: LessonId; reader: TeacherId },
): Promise<Uint8Array> => described(db, lesson, (at, row) => documentOf(at, row, reader));

/** JSON of a lesson's edition. @throws RequestProblem when it has gone */
export const describeEdit = (db: Knex, { lesson }: { lesson: LessonId }): Promise<Uint8Array> =>
  described(db, lesson, editStateOf);

async function described(
  db: Knex,
  id: LessonId,
  describe: (db: Knex, lesson: LessonRow) => Promise<unknown>,
): Promise<Uint8Array> {
  const lesson = await db<LessonRow>('lessons').where({ id }).first();
  if (!lesson) throw notFound('lesson');
  return Buffer.from(JSON.stringify(await describe(db, lesson)));
}

async function documentOf(db: Knex, lesson: LessonRow, reader: TeacherId): Promise<LessonDocument> {
  const takes = await db<TakeRow>('takes')
    .where({ lesson_id: lesson.id })
    // What was made of a recording's beginning comes before the recording.
    .orderBy(['started_at', 'length_samples', 'id']);
  return {
    id: lesson.id,
    title: lesson.title,
    about: aboutOf(lesson),
    isBinned: lesson.binned_at !== null,
    revision: lesson.revision,
    pages: (await writtenPages(db, lesson.id)).map(({ page, contents }): PageDocument => ({
      page,
      pieces: Buffer.from(contents).toString('base64'),
    })),
    between: lesson.between_marks.toString('base64'),
    // Nobody undoes what somebody else has done.
    history: (lesson.history_of ?? lesson.teacher_id) === reader ? (lesson.history?.toString('base64') ?? '') : '',
    takes: await Promise.all(takes.map((take) => describeTake(db, take, takes))),
    versions: await listVersions(db, lesson),
    ...(await editStateOf(db, lesson)),
  };
}

/** The edition in force, and what can be done from there. */
async function editStateOf(db: Knex, lesson: LessonRow): Promise<EditState> {
  const newest = await db<ProgrammeRow>('programmes').where({ lesson_id: lesson.id }).max({ n: 'n' }).first();
  return {
    edition: (await currentEdition(db, lesson)) as EditState['edition'],
    edit: await currentEdit(db, lesson),
    canUndoEdit: lesson.programme_n > 1,
    canRedoEdit: lesson.programme_n < Number((newest as { n: number | null } | undefined)?.n ?? 0),
    link: await describeLink(db, lesson),
  };
}

async function describeTake(db: Knex, take: TakeRow, all: readonly TakeRow[]): Promise<TakeSummary> {
  const parts = await db<TakePartRow>('take_parts').where({ take_id: take.id }).count({ count: '*' }).first();
  const beginning = all.find(({ id }) => id === take.kept_as);
  return {
    id: take.id,
    lengthSamples: Number(take.length_samples),
    hasSound: Boolean(take.has_sound),
    sound: take.sound_asset,
    marks: take.marks_asset,
    ended: take.ended_at !== null,
    hasProfile: take.profile_asset !== null,
    partCount: Number((parts as { count: number }).count) - (beginning?.part_count ?? 0),
    keptAs: take.kept_as,
    startedAt: take.started_at,
    plan: take.plan === null ? { kind: 'carry-on' } : readForm('plan', take.plan),
    name: take.name ?? '',
    isBinned: take.binned_at !== null,
  };
}

async function describeLink(db: Knex, lesson: LessonRow): Promise<LessonDocument['link']> {
  const link = await mainLink(db, lesson.id);
  if (!link) return null;
  const publication = await db<PublicationRow>('publications').where({ id: link.publication_id }).first();
  return { token: link.token, upToDate: (await currentCheck(db, lesson))(publication!) };
}
