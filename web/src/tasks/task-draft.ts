import { ALLOWED, taskAbout, type TaskAbout } from '@kite-trail/core/contract/task';

/** What is said of a task, as it is typed. */
export interface TaskDraft {
  title: string;
  question: string;
  /** As the browser's own field for a moment has it: local time, `2026-11-30T09:00`; empty where there is none. */
  due: string;
  takesLate: boolean;
  allows: TaskAbout['allows'];
  criteria: { name: string; points: number }[];
  /** Addresses of shared lessons; empty where there are none. */
  instruction: string;
  example: string;
  choices: TaskAbout['choices'];
  isLive: boolean;
  isOpen: boolean;
}

export const newDraft = (title: string): TaskDraft => ({
  title,
  question: '',
  due: '',
  takesLate: true,
  allows: [...ALLOWED],
  criteria: [],
  instruction: '',
  example: '',
  choices: [],
  isLive: false,
  isOpen: false,
});

const MINUTE_MS = 60_000;
const localTime = (at: string): string =>
  new Date(Date.parse(at) - new Date(at).getTimezoneOffset() * MINUTE_MS).toISOString().slice(0, 16);
const addressOf = (token: string | null): string => (token === null ? '' : `${location.origin}/w/${token}`);

export const draftOf = ({ dueAt, instruction, example, ...about }: TaskAbout): TaskDraft => ({
  ...about,
  criteria: about.criteria.map((one) => ({ ...one })),
  due: dueAt === null ? '' : localTime(dueAt),
  instruction: addressOf(instruction),
  example: addressOf(example),
});

/** The token in a shared lesson's address; `null` where there is none. @throws Error where it is another address */
function tokenIn(address: string): string | null {
  if (address.trim() === '') return null;
  const token = /\/w\/([\w-]{22,64})\/?$/.exec(address.trim())?.[1];
  if (token === undefined) throw new Error('Paste the address of a watch link: it has “/w/” in it.');
  return token;
}

/** What the school is told. @throws Error with what is wrong with it */
export function aboutOf({ due, instruction, example, ...draft }: TaskDraft): TaskAbout {
  const read = taskAbout.safeParse({
    ...draft,
    dueAt: due === '' ? null : new Date(due).toISOString(),
    instruction: tokenIn(instruction),
    example: tokenIn(example),
  });
  if (!read.success) throw new Error(read.error.issues[0].message);
  return read.data;
}
