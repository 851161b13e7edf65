import { edition } from '@kite-trail/core/contract/edition';
import { lessonName } from '@kite-trail/core/contract/lesson';
import { setAsideList, type SetAsideList } from '@kite-trail/core/contract/set-aside';
import { handingIn } from '@kite-trail/core/contract/task';
import { decodeHistory } from '@kite-trail/core/formats/history-coding';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { decodeHeard } from '@kite-trail/core/formats/profile-coding';
import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { Owed } from './entry';
import type { Kept } from './log';

const LIST = 'set-aside.json';
const NO_SUCH_FILE =
  'This is no file of work that was set aside, or it is damaged. Choose one that was saved by “Save to a file”.';

/** A file of work that was set aside cannot be read. */
export class NoSetAsideFile extends Error {
  override readonly name = 'NoSetAsideFile';

  constructor() {
    super(NO_SUCH_FILE);
  }
}

/** Writes entries of one lesson as a file: a ZIP with a list, and each payload as a file of its own. */
export async function writeSetAside(why: string, kept: readonly Kept[]): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = {};
  const entries: SetAsideList['entries'] = [];
  for (const [i, { entry, payload }] of kept.entries()) {
    const parts = await payloadFiles({ ...entry.head, payload } as Owed);
    const names = parts.map(({ ending }) => `${String(i).padStart(5, '0')}-${entry.head.kind}.${ending}`);
    parts.forEach(({ bytes }, n) => (files[names[n]] = bytes));
    entries.push({ key: entry.key, atMs: entry.atMs, head: entry.head as never, payload: names });
  }
  const list: SetAsideList = { form: 'set-aside', version: 1, why, lesson: kept[0].entry.lesson, entries };
  files[LIST] = strToU8(JSON.stringify(list, null, 2));
  return zipSync(files, { level: 6 });
}

/** What a file brings back: of one lesson, in its order. @throws NoSetAsideFile */
export function readSetAside(bytes: Uint8Array): { list: SetAsideList; owed: Owed[] } {
  try {
    const files = unzipSync(bytes);
    const list = setAsideList.parse(JSON.parse(strFromU8(files[LIST])));
    const owed = list.entries.map(({ head, payload }) => {
      const parts = payload.map((name) => files[name]);
      if (parts.some((part) => part === undefined)) throw new NoSetAsideFile();
      return { ...head, payload: payloadOf(head.kind, parts) } as Owed;
    });
    return { list, owed };
  } catch {
    throw new NoSetAsideFile();
  }
}

async function payloadFiles(owed: Owed): Promise<{ ending: string; bytes: Uint8Array }[]> {
  switch (owed.kind) {
    case 'file':
      return [{ ending: 'bin', bytes: new Uint8Array(await owed.payload.arrayBuffer()) }];
    case 'changes':
      return [
        { ending: 'marks', bytes: owed.payload.marks },
        { ending: 'history', bytes: owed.payload.history },
      ];
    case 'part':
    case 'profile':
      return [{ ending: owed.kind, bytes: owed.payload }];
    case 'name':
    case 'hand-in':
    case 'edit':
    case 'undo':
    case 'redo':
      return [{ ending: 'json', bytes: strToU8(JSON.stringify(owed.payload)) }];
    case 'take':
    case 'end':
      return [];
  }
}

/** The payload, checked by whoever reads that form. */
function payloadOf(kind: Owed['kind'], [first, second]: readonly Uint8Array[]): Owed['payload'] {
  switch (kind) {
    case 'file':
      return new Blob([first as BlobPart]);
    case 'changes':
      decodeMarks(first);
      decodeHistory(second);
      return { marks: first, history: second };
    case 'part':
      decodeTakePart(first);
      return first;
    case 'profile':
      decodeHeard(first);
      return first;
    case 'name':
      return lessonName.parse(JSON.parse(strFromU8(first)));
    case 'hand-in':
      return handingIn.parse(JSON.parse(strFromU8(first)));
    case 'edit':
    case 'undo':
    case 'redo':
      return edition.parse(JSON.parse(strFromU8(first)));
    case 'take':
    case 'end':
      return null;
  }
}
