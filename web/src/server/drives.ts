import {
  begunSending,
  drive,
  DRIVE_PART_BYTES,
  driveFolder,
  sentToDrive,
  type Drive,
  type DriveAccount,
  type DriveFolder,
  type NewSending,
} from '@kite-trail/core/contract/drive';
import pRetry from 'p-retry';
import { z } from 'zod';
import { call, Unreachable } from './call';

/** The school drops what nobody has gone on with for two minutes: so often a lost part is sent again before. */
const TRIES = 12;
const LONGEST_WAIT_MS = 10_000;

const readDrives = async (response: Promise<Response>): Promise<Drive[]> =>
  z.array(drive).parse(await (await response).json());
const inQuery = (path: readonly string[]): string => encodeURIComponent(JSON.stringify(path));

/** The school's shared drives. Every call throws `Refused` or `Unreachable`. */
export const driveApi = {
  drives: () => readDrives(call('GET', '/drives')),
  open: (id: string, account: DriveAccount) => readDrives(call('PUT', `/drives/${id}/account`, account)),
  forget: (id: string) => readDrives(call('DELETE', `/drives/${id}/account`)),
  folder: async (id: string, path: readonly string[]): Promise<DriveFolder> =>
    driveFolder.parse(await (await call('GET', `/drives/${id}/folder?path=${inQuery(path)}`)).json()),
};

/** Where a browser fetches a file of a drive. */
export const driveFileUrl = (id: string, path: readonly string[]): string =>
  `/api/drives/${id}/file?path=${inQuery(path)}`;

/**
 * Puts a file on a drive, part by part; a part that was lost on its way is sent again.
 * @param onDone hears how much of it is there, from 0 to 1
 * @returns under which name it lies there
 * @throws Refused, Unreachable, and an `AbortError` where it is given up: then nothing of it is left there
 */
export async function sendToDrive(
  id: string,
  path: readonly string[],
  file: File,
  { onDone, signal }: { onDone: (done: number) => void; signal: AbortSignal },
): Promise<string> {
  const asked: NewSending = { path: [...path], name: file.name, sizeBytes: file.size };
  const begun = begunSending.parse(await (await call('POST', `/drives/${id}/sendings`, asked)).json());
  const at = `/drives/${id}/sendings/${begun.id}`;
  try {
    for (let n = 0; n * DRIVE_PART_BYTES < file.size; n++) {
      const part = file.slice(n * DRIVE_PART_BYTES, (n + 1) * DRIVE_PART_BYTES);
      await pRetry(() => call('PUT', `${at}/parts/${n}`, part), {
        retries: TRIES,
        maxTimeout: LONGEST_WAIT_MS,
        shouldRetry: ({ error }) => error instanceof Unreachable,
        signal,
      });
      onDone(Math.min(1, ((n + 1) * DRIVE_PART_BYTES) / file.size));
    }
    signal.throwIfAborted();
    return sentToDrive.parse(await (await call('POST', `${at}/end`)).json()).name;
  } catch (error) {
    await call('DELETE', at).catch(() => {});
    throw error;
  }
}
