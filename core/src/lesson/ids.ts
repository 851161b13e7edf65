declare const brand: unique symbol;
type Id<Name extends string> = string & { readonly [brand]: Name };

export type LessonId = Id<'lesson'>;
export type ClassId = Id<'class'>;
export type PageId = Id<'page'>;
export type PieceId = Id<'piece'>;
export type CaptionId = Id<'caption'>;
export type PromptId = Id<'prompt'>;
export type GroupId = Id<'group'>;
export type TakeId = Id<'take'>;
/** The lower-case hexadecimal SHA-256 of the asset's bytes. */
export type AssetId = Id<'asset'>;
export type VersionId = Id<'version'>;
export type TemplateId = Id<'template'>;
export type TeacherId = Id<'teacher'>;
export type StudentId = Id<'student'>;
export type TaskId = Id<'task'>;
export type ReplyId = Id<'reply'>;
export type HandInId = Id<'hand-in'>;
