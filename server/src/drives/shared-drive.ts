import { setTimeout as pause } from 'node:timers/promises';
import { PassThrough, Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import {
  MOST_OF_ONE_DRIVE_NAME,
  driveEntry,
  driveName,
  type DriveAccount,
  type DriveEntry,
  type DriveFolder,
} from '@kite-trail/core/contract/drive';
import { numberedName } from '@kite-trail/core/formats/numbered-name';
import { nanoid } from 'nanoid';
import { AuthType, createClient, getPatcher, type FileStat, type WebDAVClient } from 'webdav';
import { RequestProblem } from '../http/problem';

const SECOND_MS = 1000;
/** A drive that has not answered by then is told to be away. */
const ANSWERS_WITHIN_MS = 20 * SECOND_MS;
/** What a folder holds is read up to this size, and told up to this many. */
const MOST_LISTED_BYTES = 16 * 2 ** 20;
const MOST_LISTED = 2000;
const CLEARING_TRIES = 10;
const CLEARING_WAIT_MS = 200;

// A drive sends nobody elsewhere: requests go only where the school allows. What it answers with is bounded.
getPatcher().patch('fetch', async (...asked: unknown[]) => {
  const [url, options] = asked as [string, RequestInit];
  const response = await fetch(url, { ...options, redirect: 'error', duplex: 'half' } as RequestInit);
  const isListing = options.method === 'PROPFIND' && response.body !== null;
  return isListing
    ? new Response(Readable.toWeb(Readable.from(bounded(response.body as ReadableStream))) as never, response)
    : response;
});

async function* bounded(body: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of body) {
    bytes += chunk.length;
    if (bytes > MOST_LISTED_BYTES) throw new RequestProblem(409, 'drive-large', 'There is too much in this folder.');
    yield chunk;
  }
}

/** A drive of the school's, as one of its teachers opens it. Every method throws a `RequestProblem` the teacher can act on. */
export class SharedDrive {
  private readonly client: WebDAVClient;

  constructor(address: string, { userName, password }: DriveAccount) {
    this.client = createClient(address.replaceAll('{user}', encodeURIComponent(userName)), {
      authType: AuthType.Auto,
      username: userName,
      password,
    });
  }

  /** What lies in a folder. */
  async list(path: readonly string[]): Promise<DriveFolder> {
    const found = await told(this.client.getDirectoryContents(inFolder(path), within()) as Promise<FileStat[]>);
    const entries = found.flatMap((one) => entryOf(one) ?? []).sort(byKindAndName);
    return {
      entries: entries.slice(0, MOST_LISTED),
      isWhole: entries.length === found.length && entries.length <= MOST_LISTED,
    };
  }

  /** Opens a file to read. @param signal ends it when it is not wanted any more */
  async read(path: readonly string[], signal: AbortSignal): Promise<{ sizeBytes: number | null; body: Readable }> {
    // How it wants to be asked for a password is known from here on.
    await told(this.client.stat(inFolder(path), within()));
    const asked = this.client.customRequest(inFolder(path), { method: 'GET', signal });
    // The package’s own type leaves the body out; it is what `fetch` has answered.
    const response = (await told(asked)) as unknown as globalThis.Response;
    const length = response.headers.get('content-length');
    const body = Readable.fromWeb(response.body as ReadableStream);
    return { sizeBytes: length === null ? null : Number(length), body };
  }

  /**
   * Begins to write a file. It lies under a name of its own until it is whole; then it has the name that was wanted, or one beside it:
   * nothing that lies there is written over.
   */
  async write(path: readonly string[], name: string, sizeBytes: number): Promise<FileOnItsWay> {
    await told(this.client.stat(inFolder(path), within()));
    const { client } = this;
    const begun = inFolder([...path, `.${nanoid(12)}.part`]);
    const body = new PassThrough();
    const abort = new AbortController();
    const headers = { 'Content-Length': String(sizeBytes) };
    const put = told(client.putFileContents(begun, body, { overwrite: false, headers, signal: abort.signal }));
    // Where it fails early, whoever writes hears of it.
    put.catch((error: Error) => body.destroy(error));
    body.on('error', () => {});
    return {
      body,
      async end() {
        body.end();
        await put;
        const { size } = (await told(client.stat(begun, within()))) as FileStat;
        if (size !== sizeBytes) throw new RequestProblem(409, 'drive-damaged', 'It did not arrive whole. Try again.');
        return moveToFree(client, begun, path, name);
      },
      async drop() {
        abort.abort();
        await put.catch(() => {});
        await clearAway(client, begun);
      },
    };
  }
}

/** A file that is being written. */
export interface FileOnItsWay {
  /** Takes its bytes. */
  readonly body: PassThrough;
  /** All of it was written. @returns under which name it lies there */
  end(): Promise<string>;
  /** Leaves nothing of it there. */
  drop(): Promise<void>;
}

/** A drive may still be writing what it had got when the line was cut, so it is looked whether the file has gone for good. */
async function clearAway(client: WebDAVClient, path: string): Promise<void> {
  for (let n = 0; n < CLEARING_TRIES; n++) {
    await client.deleteFile(path, within()).catch(() => {});
    await pause(CLEARING_WAIT_MS);
    const isThere = await client.exists(path, within()).catch(() => false);
    if (!isThere) return;
  }
}

async function moveToFree(client: WebDAVClient, from: string, path: readonly string[], name: string): Promise<string> {
  for (let n = 1; n <= MOST_OF_ONE_DRIVE_NAME; n++) {
    const tried = numberedName(name, n);
    const to = inFolder([...path, tried]);
    if (await told(client.exists(to, within()))) continue;
    try {
      await client.moveFile(from, to, { overwrite: false, ...within() });
      return tried;
    } catch (error) {
      // Somebody else has taken this name meanwhile (RFC 4918, section 9.9.4).
      if ((error as { status?: number }).status !== PRECONDITION_FAILED) throw problemOf(error);
    }
  }
  throw new RequestProblem(409, 'drive-names', 'There are too many files of this name. Clear them up first.');
}

const inFolder = (path: readonly string[]): string => `/${path.join('/')}`;
const within = () => ({ signal: AbortSignal.timeout(ANSWERS_WITHIN_MS) });

/** What it is to a teacher; `null` for what has a name that leads elsewhere, and for what is half written. */
function entryOf({ basename, type, size, lastmod }: FileStat): DriveEntry | null {
  const name = driveName.safeParse(basename);
  if (!name.success || name.data.startsWith('.')) return null;
  const changed = new Date(lastmod);
  return driveEntry.parse({
    name: name.data,
    isFolder: type === 'directory',
    sizeBytes: Math.max(0, Number(size) || 0),
    changedAt: Number.isNaN(changed.getTime()) ? null : changed.toISOString(),
  });
}

const byKindAndName = (one: DriveEntry, other: DriveEntry): number =>
  Number(other.isFolder) - Number(one.isFolder) || one.name.localeCompare(other.name, 'en', { numeric: true });

const told = <Value>(answer: Promise<Value>): Promise<Value> =>
  answer.catch((error: unknown) => {
    throw problemOf(error);
  });

const PRECONDITION_FAILED = 412;
/** What a drive says, in words for whoever has asked. */
const REFUSALS: Record<number, [code: string, message: string]> = {
  401: ['drive-sign-in', 'The drive does not know this name with this password.'],
  403: ['drive-refused', 'The drive does not let you do this. Choose another folder.'],
  404: ['drive-gone', 'This is not on the drive any more.'],
  405: ['drive-refused', 'The drive does not take files here. Choose another folder.'],
  409: ['drive-gone', 'This folder is not on the drive any more.'],
  413: ['drive-large', 'The drive takes no file this large.'],
  423: ['drive-refused', 'Somebody else has locked this on the drive. Try again later.'],
  507: ['drive-full', 'There is no room left on the drive.'],
};

function problemOf(error: unknown): RequestProblem {
  if (error instanceof RequestProblem) return error;
  const refusal = REFUSALS[(error as { status?: number }).status ?? 0];
  if (refusal) return new RequestProblem(409, ...refusal);
  return new RequestProblem(503, 'drive-away', 'The drive cannot be reached just now. Try again later.');
}
