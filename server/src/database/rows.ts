import type { ClassColor } from '@kite-trail/core/contract/class';
import type { FoundKind } from '@kite-trail/core/contract/search';
import type {
  AssetId,
  ClassId,
  HandInId,
  LessonId,
  PageId,
  ReplyId,
  StudentId,
  TakeId,
  TaskId,
  TeacherId,
  TemplateId,
  VersionId,
} from '@kite-trail/core/lesson/ids';

/** The tables' rows as Knex gives them. Instants are ISO 8601 texts. */
export interface TeacherRow {
  id: TeacherId;
  name: string;
  email: string;
  password_hash: string;
  /** The teacher's own pens as JSON. */
  pen_roll: string | null;
  /** What they often write to students, as JSON. */
  phrases: string | null;
  created_at: string;
  /** Whether they keep the school: let teachers in, and shut them out. SQLite says 0 or 1. */
  is_keeper: boolean;
  /** Since when they cannot sign in; `null` for whoever can. */
  shut_out_at: string | null;
}

/** A code that lets somebody in once. */
export interface TicketRow {
  /** SHA-256 of the code. */
  code_hash: string;
  /** Whose password it sets anew; `null` where it makes a new teacher. */
  teacher_id: TeacherId | null;
  made_at: string;
  ends_at: string;
}

/** Somebody signed in on a device. */
export interface SessionRow {
  /** SHA-256 of what the cookie says. */
  id_hash: string;
  teacher_id: TeacherId;
  /** What the browser calls itself. */
  device: string;
  signed_in_at: string;
  seen_at: string;
}

/** A teacher's file that is on its way. */
export interface UploadRow {
  teacher_id: TeacherId;
  /** The name it will have. */
  asset_id: AssetId;
  /** The asset, without a name, whose chunks are its parts. */
  chunks_of: AssetId;
  /** How often a part has come. */
  changes: number;
  came_at: string;
}

export interface LessonRow {
  id: LessonId;
  teacher_id: TeacherId;
  title: string;
  revision: number;
  between_marks: Buffer;
  /** Which of the lesson's programmes is in force; 0 before the first take. */
  programme_n: number;
  created_at: string;
  changed_at: string;
  /** What can be undone and redone, in the bytes of `formats/history-coding`. */
  history: Buffer | null;
  /** Whose steps those are; `null` for its owner's. */
  history_of: TeacherId | null;
  /** JSON of a `LessonAbout`; `null` where its teacher has said nothing. */
  about: string | null;
  binned_at: string | null;
  /** JSON of a `LessonSource`, of a copy of another teacher's lesson. */
  source: string | null;
  /** Whether it is counted how it is watched. */
  is_counted: boolean;
  /** `changed_at` of when it was read for what can be found in it; another one says that it has been changed since. */
  read_at_change: string | null;
  /**
   * What stands in no list: `task` for what a task is done on, and what was handed in; `student` for what a student works on, which
   * its teacher does not see. `null` for all others.
   */
  aside: 'task' | 'student' | null;
}

/** By whom the school's accounts know a teacher. */
export interface IdentityRow {
  issuer: string;
  subject: string;
  teacher_id: TeacherId;
  since: string;
}

/** Somebody who works on another teacher's lesson. */
export interface LessonColleagueRow {
  lesson_id: LessonId;
  teacher_id: TeacherId;
  since: string;
}

/** A text that can be found in a lesson, as it is and as it is searched. */
export interface LessonTextRow {
  lesson_id: LessonId;
  n: number;
  kind: FoundKind;
  text: string;
  folded: string;
  at_samples: number | null;
  page: number | null;
}

/** All texts of a lesson as they are searched, a line each: what its teacher says about it, and what is said and written in it. */
export interface LessonWordsRow {
  lesson_id: LessonId;
  head: string;
  body: string;
}

export interface ClassRow {
  id: ClassId;
  teacher_id: TeacherId;
  name: string;
  color: ClassColor;
  cover_lesson_id: LessonId | null;
  /** Where it stands among its teacher's classes. */
  position: number;
  archived_at: string | null;
  made_at: string;
  /** By which its page is found; `null` while it has none. */
  page_token: string | null;
}

export interface ClassLessonRow {
  class_id: ClassId;
  lesson_id: LessonId;
  position: number;
}

export interface FavouriteRow {
  teacher_id: TeacherId;
  lesson_id: LessonId;
}

export interface PageRow {
  lesson_id: LessonId;
  id: PageId;
  position: number;
  width_pt: number;
  height_pt: number;
  paper: string;
  pieces: Buffer;
  left_pt: number;
  top_pt: number;
  sheet: string | null;
  /** JSON of a `PageScale`. */
  scale: string | null;
}

export interface LessonAssetRow {
  lesson_id: LessonId;
  asset_id: AssetId;
  file_name: string;
}

export interface TemplateRow {
  id: TemplateId;
  teacher_id: TeacherId;
  name: string;
  /** The page as JSON. */
  page: string;
  pieces: Buffer;
  made_at: string;
}

export interface TemplateAssetRow {
  template_id: TemplateId;
  asset_id: AssetId;
  file_name: string;
}

export interface PublicationAssetRow {
  publication_id: string;
  asset_id: AssetId;
}

/** What a PDF's page looks like to a teacher. */
export interface TeacherSheetRow {
  teacher_id: TeacherId;
  asset_id: AssetId;
  page_index: number;
  picture_asset: AssetId;
}

/** What a PDF's page looks like in a publication. */
export interface PublicationSheetRow {
  publication_id: string;
  asset_id: AssetId;
  page_index: number;
  picture_asset: AssetId;
}

export interface LessonChangesRow {
  lesson_id: LessonId;
  revision: number;
  marks: Buffer;
  /** The window that made them; empty where it is not known. */
  window: string;
}

export interface ProgrammeRow {
  lesson_id: LessonId;
  n: number;
  segments: string;
  /** JSON; `null` where the edit left it as it was before. */
  ink_edits: string | null;
  chapters: string | null;
  captions: string | null;
  prompts: string | null;
  sound: string | null;
  length_samples: number;
  made_at: string;
}

export interface VersionRow {
  id: VersionId;
  lesson_id: LessonId;
  name: string;
  /** JSON of an `Edition`. */
  edition: string;
  length_samples: number;
  made_at: string;
}

export interface TakeRow {
  id: TakeId;
  lesson_id: LessonId;
  has_sound: boolean;
  started_at: string;
  ended_at: string | null;
  length_samples: number;
  sound_asset: AssetId | null;
  marks_asset: AssetId | null;
  profile_asset: AssetId | null;
  /** JSON of a `TakePlan`; `null` for one that carries on at the end. */
  plan: string | null;
  name: string | null;
  binned_at: string | null;
  /** The edit in which it played when it was binned. */
  binned_from: number | null;
  /** The revision of the pages on which it began, and the window that recorded it. */
  begun_revision: number | null;
  window: string;
  /** Of how many parts it was made; `null` before it has ended. */
  part_count: number | null;
  /** The take that was made of its beginning, when it seemed to have broken off. */
  kept_as: TakeId | null;
}

export interface TakePartRow {
  take_id: TakeId;
  n: number;
  bytes: Buffer;
}

export interface AssetRow {
  id: AssetId;
  media_type: string;
  size_bytes: number;
  created_at: string;
  /** The asset that has its chunks, under which it was sent; `null` where it has them itself. */
  chunks_of: AssetId | null;
}

export interface AssetChunkRow {
  asset_id: AssetId;
  n: number;
  bytes: Buffer;
}

export interface PublicationRow {
  id: string;
  lesson_id: LessonId;
  title: string;
  programme_n: number;
  length_samples: number;
  page_count: number;
  sound_asset: AssetId | null;
  payload_asset: AssetId;
  /** JSON of where chapters begin, and WebVTT; `null` where there are none. */
  chapters: string | null;
  captions: string | null;
  made_at: string;
  /** JSON of a `Part`; `null` for the whole. */
  part: string | null;
  /** How loud it is, a byte a step. */
  loudness: Buffer | null;
  /** What it looks like; `null` for those made before there were pictures. */
  picture_asset: AssetId | null;
  /** JSON of where it halts with which question; `null` where nowhere. */
  prompts: string | null;
  /** JSON of the `Programme` it plays; `null` for those made before it was kept. */
  programme: string | null;
}

/** What is said of the school as a whole; no row: all as usual. */
export interface SchoolRow {
  id: 1;
  /** Whether it is counted how lessons are watched. */
  is_counting: boolean;
  /** How many days what students made is kept after their class has ended; `null` for as long as is usual. */
  students_kept_days: number | null;
}

/** Somebody who watches, as long as they do, by a random number of theirs. */
export interface VisitRow {
  id: string;
  token: string;
  publication_id: string;
  /** How many reports have come. */
  reports: number;
  /** The steps it has come to, and at which it was last. */
  furthest: number;
  stopped: number | null;
  seen_at: string;
}

/** How a publication was watched by a link, all visits together. */
export interface VisitSumsRow {
  token: string;
  publication_id: string;
  visits: number;
  /** JSON of `VisitSums`. */
  sums: string;
}

export interface VisitDayRow {
  token: string;
  /** As in `2026-11-29`. */
  day: string;
  visits: number;
  heard_seconds: number;
}

/** What somebody who watches has asked. */
/** A letter with a link. It waits while `next_try_at` is set; with `why`, it was refused, or the last try failed. */
export interface MailRow {
  id: string;
  teacher_id: TeacherId;
  token: string;
  sent_to: string;
  note: string;
  /** Where this server was reached when it was written, such as `https://lessons.school.example`. */
  origin: string;
  made_at: string;
  done_at: string | null;
  next_try_at: string | null;
  tries: number;
  why: string | null;
}

export interface QuestionRow {
  id: string;
  lesson_id: LessonId;
  token: string;
  /** At which moment of which take. */
  take_id: TakeId;
  take_samples: number;
  question: string;
  asked_at: string;
  answer: string | null;
  answered_at: string | null;
  /** In which it is answered by a recording. */
  answer_lesson: LessonId | null;
}

/** By what a school's drive knows a teacher. */
export interface DriveAccountRow {
  teacher_id: TeacherId;
  drive: string;
  user_name: string;
  /** By the school's own key (`drives/seal`). */
  sealed_password: Buffer;
  since: string;
}

/** The answer to a request that may come again. */
export interface KeptAnswerRow {
  teacher_id: TeacherId;
  key: string;
  /** SHA-256 of the request's route and body. */
  fingerprint: string;
  /** JSON, deflated (RFC 1950); `null` where the answer was empty. */
  answer: Buffer | null;
  kept_at: string;
}

export interface LinkRow {
  token: string;
  lesson_id: LessonId;
  publication_id: string;
  /** When the first publication was made to which it led. */
  leads_since: string;
  made_at: string;
  withdrawn_at: string | null;
  name: string;
  class_id: ClassId | null;
  is_listed: boolean;
  /** JSON of what it allows; `null` for what is usual. */
  rules: string | null;
  passcode_hash: string | null;
  ends_at: string | null;
  /** JSON of a `Part`; `null` for the whole. */
  part: string | null;
  last_watched_on: string | null;
}

/** A page that is shown live: one of each teacher's. */
export interface LivePageRow {
  teacher_id: TeacherId;
  /** Names it in addresses; the code leads to it. */
  token: string;
  code: string;
  lesson_id: LessonId;
  /** SHA-256 of what the window that shows it has. */
  key_hash: string;
  /** When it was last known to be shown. */
  shown_at: string;
}

/** A file that those who follow a page may see. */
export interface LiveFileRow {
  token: string;
  asset_id: AssetId;
  /** Of a PDF; -1 for a whole file. */
  page_index: number;
}

/** Somebody a class knows by a name of its teacher's choosing. */
export interface StudentRow {
  id: StudentId;
  class_id: ClassId;
  name: string;
  /** By which they come in. */
  key: string;
  made_at: string;
  seen_at: string | null;
  /** The one task they do, who are not of the class; `null` for all others. */
  guest_of: TaskId | null;
}

/** A student's device. */
export interface StudentSessionRow {
  /** SHA-256 of what the cookie says. */
  id_hash: string;
  student_id: StudentId;
  signed_in_at: string;
  seen_at: string;
}

export interface TaskRow {
  id: TaskId;
  class_id: ClassId;
  /** The pages it is done on. */
  sheet_id: LessonId;
  /** JSON of a `TaskAbout`. */
  about: string;
  /** By which it is found on any device. */
  code: string;
  made_at: string;
  closed_at: string | null;
}

/** What a student works on. */
export interface ReplyRow {
  id: ReplyId;
  /** `null` for what was made unasked. */
  task_id: TaskId | null;
  student_id: StudentId;
  /** Their own lesson, which nobody else sees. */
  lesson_id: LessonId;
  begun_at: string;
  /** Which of the task's choices; `null` for none. */
  choice: number | null;
}

/** What was handed in at one time. */
export interface HandInRow {
  id: HandInId;
  reply_id: ReplyId;
  /** A copy of it as it was then: feedback is written and spoken there. */
  lesson_id: LessonId;
  handed_at: string;
  /** When the student's device says it was handed in. */
  said_at: string | null;
  choice: number | null;
  taken_back_at: string | null;
  /** When its teacher opened it first. */
  opened_at: string | null;
  /** JSON of a `Marking`; `null` where nothing was said yet. */
  marking: string | null;
  /** The same as it was when it was given back: that is what its student sees. */
  given_marking: string | null;
  /** What the student says to what was given back. */
  answer: string | null;
  given_at: string | null;
  /** When the student opened what was given back. */
  seen_at: string | null;
}

/** What a page of a hand-in looked like when it was given back. */
export interface GivenPageRow {
  lesson_id: LessonId;
  page_id: PageId;
  position: number;
  picture_asset: AssetId;
}
