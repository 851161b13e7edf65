import { z } from 'zod';
import { numberedName } from '../formats/numbered-name';
import { utf8 } from '../formats/utf8';
import { line } from './primitives';

/** By what the school knows a shared drive. */
export const driveId = z.string().regex(/^[a-z0-9-]{1,40}$/, 'This is not a shared drive.');

/** Most file systems take no more (common practice). */
const LONGEST_NAME_BYTES = 255;

/** What no name may hold, lest it means another place: the marks between folders, and what is not seen. */
const NOT_IN_NAMES = /[/\\\p{Cc}\p{Surrogate}]/u;

/** A file's or a folder's name, which leads nowhere else. */
export const driveName = z
  .string()
  .min(1, 'A name is missing.')
  .refine(
    (name) => !NOT_IN_NAMES.test(name) && name !== '.' && name !== '..' && utf8(name).length <= LONGEST_NAME_BYTES,
    'No drive takes a file of this name.',
  );

/** Folder within folder, from the drive's own root. */
export const drivePath = z.array(driveName).max(40, 'This is too many folders within one another.');

/** Halves of letters cannot be sent to a drive. */
const isWellFormed = (text: string): boolean => !/\p{Surrogate}/u.test(text);
const NOT_WELL_FORMED = 'Write it once more: a letter in it is broken.';

/** By whom a teacher is known to a drive. */
export const driveAccount = z.object({
  userName: line.min(1, 'Write the name by which the drive knows you.').max(200).refine(isWellFormed, NOT_WELL_FORMED),
  password: z.string().min(1, 'The password is missing.').max(500).refine(isWellFormed, NOT_WELL_FORMED),
});
export type DriveAccount = z.output<typeof driveAccount>;

/** A drive of the school's, as one of its teachers sees it. */
export const drive = z.object({
  id: driveId,
  name: z.string(),
  /** By which name the drive knows them; `null` where they have not said it yet. */
  userName: z.string().nullable(),
});
export type Drive = z.output<typeof drive>;

export const driveEntry = z.object({
  name: driveName,
  isFolder: z.boolean(),
  sizeBytes: z.number().min(0),
  /** `null` where the drive does not say. */
  changedAt: z.iso.datetime().nullable(),
});
export type DriveEntry = z.output<typeof driveEntry>;

/** What lies in a folder: folders first, by name. `isWhole`: nothing was left out. */
export const driveFolder = z.object({ entries: z.array(driveEntry), isWhole: z.boolean() });
export type DriveFolder = z.output<typeof driveFolder>;

/** A file goes to a drive in parts of this many bytes, one after the other; only the last may be shorter. */
export const DRIVE_PART_BYTES = 2 ** 20;
const LARGEST_FILE_BYTES = 2 ** 40;
/** Nobody finds their way among more files of one name. */
export const MOST_OF_ONE_DRIVE_NAME = 200;

export const newSending = z.object({
  path: drivePath,
  // There is room for a number, where others have this name.
  name: driveName.refine(
    (name) => driveName.safeParse(numberedName(name, MOST_OF_ONE_DRIVE_NAME)).success,
    'No drive takes a file of this name.',
  ),
  sizeBytes: z
    .int()
    .min(1, 'There is nothing in this file.')
    .max(LARGEST_FILE_BYTES, 'No drive takes a file this large.'),
});
export type NewSending = z.output<typeof newSending>;

export const sendingId = z.string().regex(/^[A-Za-z0-9_-]{21}$/, 'Nothing of this name is on its way.');
export const begunSending = z.object({ id: sendingId });

/** Under which name it lies there now. */
export const sentToDrive = z.object({ name: driveName });
