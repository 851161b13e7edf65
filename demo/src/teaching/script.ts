import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage, type Page } from '@kite-trail/core/lesson/page';
import { newStroke, type Pen } from '@kite-trail/core/lesson/piece';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { msToSamples } from '@kite-trail/core/trail/clock';
import { textPaths, type Path } from '../pen/letters';
import { SimulatedPen } from '../pen/simulated-pen';
import type { DemoClass } from '../school-year';

export const NIGHT: Pen = { kind: 'pen', color: '#1f2a44', widthPt: 2.6 };
export const RED: Pen = { kind: 'pen', color: '#c23b1e', widthPt: 2.6 };
export const SEA: Pen = { kind: 'pen', color: '#12776f', widthPt: 2.6 };
export const BLUE: Pen = { kind: 'pen', color: '#2459a8', widthPt: 2.6 };
export const STRAW: Pen = { kind: 'highlighter', color: '#e9b82e', widthPt: 18 };

/** Paths written with one pen. */
export interface Writing {
  pen: Pen;
  paths: readonly Path[];
}

/** Something the teacher's hand does. */
export type Act = Writing | { turnTo: number };

/** What is said, and what the hand does meanwhile. */
export interface Beat {
  say: string;
  acts: readonly Act[];
}

/** A lesson as it is to be taught: prepared ink, then beats. */
export interface Script {
  name: string;
  title: string;
  taughtTo: DemoClass;
  pageCount: number;
  prepared: readonly { page: number; act: Writing }[];
  beats: readonly Beat[];
  /** On whose pages it is written, where these are another script's. */
  on?: string;
  /** Who speaks: a voice of espeak-ng's, and how high it is; the teacher's where nothing is said. */
  voice?: { name: string; pitch: number };
  /** How it was tidied up after it was recorded; absent where it plays as it was spoken. */
  tidied?: Tidied;
}

/** What a teacher has done to a recording. */
export interface Tidied {
  /** The beats that begin chapters. */
  chapters: readonly { beat: number; title: string }[];
  /** Before this beat the picture stands still for a moment to think. */
  thinkBefore: { beat: number; seconds: number };
}

export const write = (text: string, x: number, y: number, pen: Pen = NIGHT, heightPt = 20): Writing => ({
  pen,
  paths: textPaths(text, x, y, heightPt),
});
export const draw = (pen: Pen, ...paths: Path[]): Writing => ({ pen, paths });

const ACT_STARTS_MS = 350;
const BETWEEN_ACTS_MS = 260;

/** The pages of a script with what was prepared on them. */
export function preparedPages(script: Script): PageState[] {
  const hand = new SimulatedPen(11);
  return Array.from({ length: script.pageCount }, (_, n) => ({
    page: pageOf(script, n),
    pieces: script.prepared
      .filter((one) => one.page === n)
      .flatMap(({ act }) => act.paths.map((path) => ({ pen: act.pen, points: hand.write(path) })))
      .map(({ pen, points }, i) =>
        newStroke({
          id: `${script.name}-prepared-${n}-${i}` as PieceId,
          z: i + 1,
          pen,
          points: points.retimed(() => 0),
        }),
      ),
  }));
}

/** What the hand does in each beat: marks timed from the beat's start, and how long they take. */
export function performBeats(script: Script): { marks: Mark[]; lengthMs: number }[] {
  const hand = new SimulatedPen();
  let page = pageOf(script, 0);
  let z = 1000;
  return script.beats.map(({ acts }, beat) => {
    const marks: Mark[] = [];
    let atMs = ACT_STARTS_MS;
    for (const act of acts) {
      if ('turnTo' in act) {
        page = pageOf(script, act.turnTo);
        marks.push({ kind: 'turn', atSamples: msToSamples(atMs), page: page.id });
      } else {
        act.paths.forEach((path, i) => {
          const points = hand.write(path);
          const id = `${script.name}-${beat}-${++z}` as PieceId;
          const stroke = newStroke({ id, z, pen: act.pen, points });
          marks.push({ kind: 'ink', atSamples: msToSamples(atMs), page: page.id, stroke });
          atMs += points.lengthMs;
          if (i + 1 < act.paths.length) atMs += hand.travelMs(path[path.length - 1], act.paths[i + 1][0]);
        });
      }
      atMs += BETWEEN_ACTS_MS;
    }
    return { marks, lengthMs: atMs };
  });
}

const pageOf = ({ name, on = name }: Script, n: number): Page => wideSquaredPage(`${on}-page-${n + 1}` as PageId);
