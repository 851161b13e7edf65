import type { Drive, DriveAccount } from '@kite-trail/core/contract/drive';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { DriveAccountRow } from '../database/rows';
import { conflict, notFound } from '../http/problem';
import type { SchoolDrive, SchoolDrives } from './school-drives';
import { SharedDrive } from './shared-drive';

/** The school's drives, and by which name each knows a teacher. */
export async function listDrives(db: Knex, { all }: SchoolDrives, teacher: TeacherId): Promise<Drive[]> {
  const accounts = await db<DriveAccountRow>('drive_accounts').where({ teacher_id: teacher });
  return all.map(({ id, name }) => ({
    id,
    name,
    userName: accounts.find(({ drive }) => drive === id)?.user_name ?? null,
  }));
}

/** The drive of a name. @throws RequestProblem where the school has none */
export function driveOf({ all }: SchoolDrives, id: unknown): SchoolDrive {
  const found = all.find((one) => one.id === id);
  if (!found) throw notFound('drive');
  return found;
}

/** A secret that is sealed for one teacher's drive opens no other's. */
const purpose = (teacher: TeacherId, drive: string) => `${teacher} ${drive}`;

/** Keeps by which name and password a drive knows a teacher. */
export async function keepAccount(
  db: Knex,
  { seal }: SchoolDrives,
  teacher: TeacherId,
  { id }: SchoolDrive,
  { userName, password }: DriveAccount,
): Promise<void> {
  await db('drive_accounts')
    .insert({
      teacher_id: teacher,
      drive: id,
      user_name: userName,
      sealed_password: seal.close(password, purpose(teacher, id)),
      since: new Date().toISOString(),
    } satisfies DriveAccountRow)
    .onConflict(['teacher_id', 'drive'])
    .merge();
}

export async function dropAccount(db: Knex, { teacher_id, drive }: DriveAccountRow): Promise<void> {
  await db('drive_accounts').where({ teacher_id, drive }).delete();
}

/** A drive as its teacher opens it. @throws RequestProblem where their password cannot be read any more */
export function openDrive({ all, seal }: SchoolDrives, account: DriveAccountRow): SharedDrive {
  const { teacher_id, drive, user_name: userName, sealed_password } = account;
  const { address } = driveOf({ all, seal }, drive);
  const password = seal.open(sealed_password, purpose(teacher_id, drive));
  if (password === null) throw conflict('drive-sign-in', 'Say your name and password for this drive once more.');
  return new SharedDrive(address, { userName, password });
}
