import { z } from 'zod';
import type {
  AssetId,
  CaptionId,
  ClassId,
  HandInId,
  LessonId,
  PageId,
  PieceId,
  PromptId,
  ReplyId,
  StudentId,
  TakeId,
  TaskId,
  TeacherId,
  TemplateId,
  VersionId,
} from '../lesson/ids';

const id = z.string().regex(/^[A-Za-z0-9_-]{8,40}$/, 'This is not a valid id.');

export const lessonId = id.transform((value) => value as LessonId);
export const classId = id.transform((value) => value as ClassId);
export const pageId = id.transform((value) => value as PageId);
export const templateId = id.transform((value) => value as TemplateId);
export const takeId = id.transform((value) => value as TakeId);
export const captionId = id.transform((value) => value as CaptionId);
export const promptId = id.transform((value) => value as PromptId);
export const versionId = id.transform((value) => value as VersionId);
export const teacherId = id.transform((value) => value as TeacherId);
export const studentId = id.transform((value) => value as StudentId);
export const taskId = id.transform((value) => value as TaskId);
export const replyId = id.transform((value) => value as ReplyId);
export const handInId = id.transform((value) => value as HandInId);
/** Pieces are named by whoever puts them on a page: in printable ASCII. */
export const PIECE_ID = /^[!-~]{1,64}$/;
export const pieceId = z
  .string()
  .regex(PIECE_ID, 'This is not a valid id.')
  .transform((value) => value as PieceId);
export const assetId = z
  .string()
  .regex(/^[0-9a-f]{64}$/, 'This is not a valid asset id.')
  .transform((value) => value as AssetId);
/** What somebody writes on a line. Not every database can keep the letter U+0000, and nobody sees it. */
export const line = z.string().overwrite((text) => text.replaceAll('\0', '').trim());
/** What somebody writes on several lines. */
export const text = z.string().overwrite((lines) => lines.replaceAll('\0', '').trim());
export const watchToken = z.string().regex(/^[A-Za-z0-9_-]{22,64}$/, 'This link is not complete.');
/** `#rrggbb`, in small letters. */
export const color = z.string().regex(/^#[0-9a-f]{6}$/, 'A colour is written like #1f2a44.');
export const samples = z.number().int().min(0).max(Number.MAX_SAFE_INTEGER);
export const base64 = z.base64();
