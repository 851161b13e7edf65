import { driveId } from '@kite-trail/core/contract/drive';
import type { Seal } from './seal';

/** A shared drive that the school allows its teachers. */
export interface SchoolDrive {
  id: string;
  name: string;
  /** Where it is, by WebDAV (RFC 4918); `{user}` stands for the name by which it knows a teacher. */
  address: string;
}

/** The school's drives, and what seals by which passwords they are opened. Requests go to these addresses alone. */
export interface SchoolDrives {
  all: readonly SchoolDrive[];
  seal: Seal;
}

/**
 * Reads which drives a school allows.
 * @param written such as `Staff room = https://files.school.example/dav/{user}/; Boat house = https://…`
 * @throws Error where something in it is no drive
 */
export function readDrives(written: string): SchoolDrive[] {
  const drives = written
    .split(';')
    .map((one) => one.trim())
    .filter((one) => one !== '')
    .map((one): SchoolDrive => {
      const [, name, address] = /^([^=]+?)\s*=\s*(\S+)$/.exec(one) ?? [];
      if (!name || !URL.canParse(address) || !/^https?:$/.test(new URL(address).protocol)) {
        throw new Error(`DRIVES names each drive like “Staff room = https://files.school.example/dav/”, not “${one}”.`);
      }
      return { id: idOf(name), name, address };
    });
  if (new Set(drives.map(({ id }) => id)).size < drives.length) throw new Error('Two drives in DRIVES have one name.');
  return drives;
}

/** By the name's letters, so that it stays when others are added. */
function idOf(name: string): string {
  const id = driveId.safeParse(
    name
      .toLowerCase()
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-|-$/g, '')
      .slice(0, 40),
  );
  if (!id.success || id.data === '') throw new Error(`In DRIVES, “${name}” needs letters or digits.`);
  return id.data;
}
