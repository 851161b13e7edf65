import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { EditedFrom } from '@kite-trail/core/contract/edition';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { Refused, Unreachable } from '../server/call';
import { turn } from './turn';
import type { Entry, Owed } from '../outbox/entry';
import type { Answer, School } from '../outbox/school';

/** What may happen to a request. */
export type Fate = 'answered' | 'lost' | 'answer-lost' | 'busy' | 'full' | 'signed-out';

/** A school for tests: it keeps answers by their key, and does to requests what it is told. */
export class FakeSchool implements School {
  /** The fates of the next requests; then all are answered. */
  fates: Fate[] = [];
  /** What has arrived, in the order in which it did: named like what was made. */
  readonly arrived: string[] = [];
  revision = 1;
  edit: EditedFrom = { n: 0, madeAt: '' };
  private readonly answers = new Map<string, Answer>();

  /** @param isRefused what can never be */
  constructor(private readonly isRefused: (name: string) => boolean = () => false) {}

  async send(entry: Entry, payload: Owed['payload']): Promise<Answer> {
    await turn();
    const fate = this.fates.shift() ?? 'answered';
    if (fate === 'lost') throw new Unreachable();
    if (fate === 'busy') throw new Refused(500, 'server', 'Something went wrong.');
    if (fate === 'full') throw new Refused(507, 'disk-full', 'The school’s server is out of room.');
    if (fate === 'signed-out') throw new Refused(401, 'sign-in', 'Sign in to go on.');
    const answer = this.answers.get(entry.key) ?? this.take(entry, payload);
    this.answers.set(entry.key, answer);
    if (fate === 'answer-lost') throw new Unreachable();
    return answer;
  }

  async stands(): Promise<{ revision: number; edit: EditedFrom }> {
    return { revision: this.revision, edit: this.edit };
  }

  private take({ head }: Entry, payload: Owed['payload']): Answer {
    const names = namesOf({ ...head, payload } as Owed);
    if (names.some(this.isRefused)) throw new Refused(400, 'bad-input', 'This cannot be.');
    if ('from' in head && head.from.n !== this.edit.n) throw new Refused(409, 'changed-elsewhere', 'Edited elsewhere.');
    if (head.kind === 'end') {
      const parts = this.arrived.filter((name) => name.startsWith(`part of ${head.take}`)).length;
      if (parts < head.parts) throw new Refused(409, 'parts-missing', 'Parts are missing.');
    }
    this.arrived.push(...names);
    if (head.kind === 'changes') return { to: 'changes', revision: ++this.revision, merged: false };
    if (head.kind !== 'end' && !('from' in head)) return { to: 'other' };
    this.edit = { n: this.edit.n + 1, madeAt: `moment ${this.edit.n + 1}` };
    if (head.kind === 'end') return { to: 'end', lesson: { edit: this.edit } as never };
    return { to: 'step', state: { edit: this.edit } as never };
  }
}

/** What an entry brings, by the names a test knows it by. */
export function namesOf(owed: Owed): string[] {
  switch (owed.kind) {
    case 'file':
      return [`file ${owed.asset}`];
    case 'changes':
      return decodeMarks(owed.payload.marks).map(nameOfMark);
    case 'take':
      return [`take ${owed.take}`];
    case 'part':
      return [`part of ${owed.take}: ${owed.n}`];
    case 'end':
      return [`end of ${owed.take}`];
    case 'profile':
      return [`profile of ${owed.take}`];
    case 'name':
      return [`name ${owed.payload.title}`];
    case 'hand-in':
      return [`hand-in ${owed.payload.saidAt}`];
    default:
      return [`step ${owed.payload.chapters[0].title}`];
  }
}

const nameOfMark = (mark: Mark) => `mark ${mark.kind === 'lift' ? mark.pieceIds[0] : mark.kind}`;
