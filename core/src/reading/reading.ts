import type { Choice, Recogniser } from './recogniser';
import type { Polyline } from './point-cloud';

/** A letter that was read: the strokes it is made of, by their numbers, and what it may be, the likeliest first. */
export interface ReadLetter {
  strokes: number[];
  choices: string[];
  /** A new word begins with it. */
  beginsWord: boolean;
}

/** Lines from top to bottom, each from left to right. */
export type Reading = ReadLetter[][];

/** The text that was read, its likeliest letters. */
export const textOf = (reading: Reading): string =>
  reading
    .map((line) => line.map(({ choices, beginsWord }, i) => (beginsWord && i > 0 ? ' ' : '') + choices[0]).join(''))
    .join('\n');

interface Ink {
  number: number;
  line: Polyline;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Reads handwriting: finds its lines, which strokes make a letter, words, and what each letter is. */
export function read(strokes: readonly Polyline[], recogniser: Recogniser): Reading {
  return linesOf(strokes.map(inkOf)).map((line) => readLine(line, recogniser));
}

function inkOf(line: Polyline, number: number): Ink {
  const xs = line.filter((_, i) => i % 2 === 0);
  const ys = line.filter((_, i) => i % 2 === 1);
  return {
    number,
    line,
    left: Math.min(...xs),
    right: Math.max(...xs),
    top: Math.min(...ys),
    bottom: Math.max(...ys),
  };
}

const heightOf = ({ top, bottom }: Ink): number => bottom - top;
const middleOf = ({ top, bottom }: Ink): number => (top + bottom) / 2;

/** Strokes lower than this share of the tallest ones say little about where lines are. */
const TALL_SHARE = 0.5;
/** Strokes further apart than this, in heights of tall ones, are on different lines. */
const LINE_STEP = 0.7;

function linesOf(ink: readonly Ink[]): Ink[][] {
  const height = tallOf(ink);
  const lines: { at: number; ink: Ink[] }[] = [];
  const tall = ink.filter((one) => heightOf(one) >= height * TALL_SHARE);
  const small = ink.filter((one) => heightOf(one) < height * TALL_SHARE);
  for (const one of [...tall].sort((a, b) => middleOf(a) - middleOf(b))) {
    const line = lines.at(-1);
    if (line && middleOf(one) - line.at < height * LINE_STEP) {
      line.ink.push(one);
      line.at = line.ink.reduce((sum, each) => sum + middleOf(each), 0) / line.ink.length;
    } else {
      lines.push({ at: middleOf(one), ink: [one] });
    }
  }
  for (const one of small) {
    const gaps = lines.map(({ at }) => Math.abs(at - middleOf(one)));
    lines[gaps.indexOf(Math.min(...gaps))].ink.push(one);
  }
  return lines.map((line) => line.ink);
}

/** The height of tall strokes: nine in ten are no taller. Of flat ones alone, their width serves. */
function tallOf(ink: readonly Ink[]): number {
  const heights = ink.map(heightOf).sort((a, b) => a - b);
  const tall = heights[Math.floor((heights.length - 1) * 0.9)];
  return Math.max(tall, Math.max(...ink.map(({ left, right }) => right - left)) * 0.2, 1e-6);
}

/** No letter is written in more strokes. */
const MOST_STROKES = 4;
/** Nor is one wider, or with a wider gap in it, than so many tall strokes. */
const MOST_WIDTH = 1.7;
const MOST_GAP = 0.4;
/** What is smaller than this share of a tall stroke is a dot. */
const DOT_SHARE = 0.2;
/** What it costs to put strokes that lie above one another in different letters, and those with a gap into one. */
const SPLIT_COST = 0.4;
const OVERLAP_FREE = 0.25;
const GAP_COST = 0.5;
const GAP_FREE = 0.08;
/** What a dot costs in a letter whose other strokes are not above or below it. */
const STRAY_DOT_COST = 0.2;
/** A dot that is tapped hardly meets the line it belongs to: so far from it, as a share of a tall stroke, it is above it still. */
const BESIDE_SHARE = 0.12;
/** What each letter costs: fewer are likelier. */
const LETTER_COST = 0.03;
/** A gap between words is wider than this share of a tall stroke, and than so many usual gaps. */
const WORD_GAP = 0.42;
const USUAL_GAPS = 1.8;

interface Group {
  ink: Ink[];
  choices: Choice[];
  box: Pick<Ink, 'left' | 'right' | 'top' | 'bottom'>;
}

function readLine(line: readonly Ink[], recogniser: Recogniser): ReadLetter[] {
  const ink = [...line].sort((a, b) => a.left + a.right - (b.left + b.right));
  const tall = tallOf(ink);
  const groups = groupsOf(ink, tall, recogniser);
  const letters: ReadLetter[] = [];
  for (const word of wordsOf(groups, tall)) {
    word.forEach((group, i) => {
      const strokes = group.ink.map(({ number }) => number).sort((a, b) => a - b);
      letters.push({ strokes, choices: [], beginsWord: i === 0 });
    });
    meantAs(word, tall).forEach((choices, i) => (letters[letters.length - word.length + i].choices = choices));
  }
  return letters;
}

/** The way to divide a line into letters that fits best: the shortest path over all ways to take strokes together. */
function groupsOf(ink: readonly Ink[], tall: number, recogniser: Recogniser): Group[] {
  const foot = Math.max(...ink.filter((one) => heightOf(one) > tall * TALL_SHARE).map(({ bottom }) => bottom));
  const best: { cost: number; from: number; group: Group | null }[] = [{ cost: 0, from: 0, group: null }];
  for (let end = 1; end <= ink.length; end++) {
    best[end] = { cost: Infinity, from: 0, group: null };
    for (let from = end - 1; from >= Math.max(0, end - MOST_STROKES); from--) {
      if (!mayBeOne(ink.slice(from, end), tall)) continue;
      const group = groupOf(ink.slice(from, end), foot, tall, recogniser);
      const before = best[from].group;
      const cost =
        best[from].cost +
        LETTER_COST +
        group.choices[0].distance * group.ink.length +
        gapsIn(group, tall) +
        (before ? overlapOf(before.box, group.box, tall) : 0);
      if (cost < best[end].cost) best[end] = { cost, from, group };
    }
  }
  const groups: Group[] = [];
  for (let end = ink.length; end > 0; end = best[end].from) groups.unshift(best[end].group!);
  return groups;
}

function groupOf(ink: Ink[], foot: number, tall: number, recogniser: Recogniser): Group {
  const box = {
    left: Math.min(...ink.map(({ left }) => left)),
    right: Math.max(...ink.map(({ right }) => right)),
    top: Math.min(...ink.map(({ top }) => top)),
    bottom: Math.max(...ink.map(({ bottom }) => bottom)),
  };
  const choices = ink.every((one) => isDot(one, tall))
    ? dotChoices(ink, foot, tall)
    : recogniser.choices(ink.map(({ line }) => line));
  return { ink, choices, box };
}

/** Whether strokes, from left to right, may be one letter: a single one always may. */
function mayBeOne(ink: readonly Ink[], tall: number): boolean {
  if (ink.length === 1) return true;
  const [left, right] = [Math.min(...ink.map((one) => one.left)), Math.max(...ink.map((one) => one.right))];
  const isApart = ink
    .slice(1)
    .some((one, i) => one.left - Math.max(...ink.slice(0, i + 1).map((own) => own.right)) > tall * MOST_GAP);
  return !isApart && right - left < tall * MOST_WIDTH;
}

const isDot = (one: Ink, tall: number): boolean => Math.max(one.right - one.left, heightOf(one)) < tall * DOT_SHARE;

/** What a dot may be by where it stands: at the foot of the line, or alone higher up, where it hardly means anything. */
function dotChoices(ink: readonly Ink[], foot: number, tall: number): Choice[] {
  const isAtFoot = ink.every(({ bottom }) => foot - bottom < tall * 0.35);
  if (ink.length === 1) return isAtFoot ? dots('.,-', 0.03) : dots('-.,', 0.2);
  return ink.length === 2 ? dots(':=', isAtFoot ? 0.3 : 0.04) : dots(':', 0.5);
}

const dots = (letters: string, distance: number): Choice[] =>
  [...letters].map((letter, i) => ({ letter, distance: distance + i * 0.02 }));

/** What the gaps between the strokes of a letter cost, and dots beside them. */
function gapsIn({ ink }: Group, tall: number): number {
  const lines = ink.filter((one) => !isDot(one, tall));
  const besidePt = tall * BESIDE_SHARE;
  const isStray = (one: Ink) =>
    lines.every(({ left, right }) => one.left > right + besidePt || one.right < left - besidePt);
  let cost = lines.length === 0 ? 0 : ink.filter((one) => isDot(one, tall) && isStray(one)).length * STRAY_DOT_COST;
  let right = ink[0].right;
  for (const one of ink.slice(1)) {
    cost += Math.max(0, (one.left - right) / tall - GAP_FREE) * GAP_COST;
    right = Math.max(right, one.right);
  }
  return cost;
}

/** What it costs that two letters lie above one another. */
function overlapOf(one: Group['box'], next: Group['box'], tall: number): number {
  const least = tall * 0.12;
  const shared = Math.min(one.right, next.right) - Math.max(one.left, next.left);
  const narrower = Math.max(least, Math.min(one.right - one.left, next.right - next.left));
  const share = (shared + least / 2) / narrower;
  return Math.max(0, Math.min(1, share) - OVERLAP_FREE) * SPLIT_COST;
}

function wordsOf(groups: readonly Group[], tall: number): Group[][] {
  const gaps = groups.slice(1).map(({ box }, i) => box.left - groups[i].box.right);
  const usual = [...gaps].sort((a, b) => a - b)[Math.floor(gaps.length * 0.35)] ?? 0;
  const least = Math.max(tall * WORD_GAP, usual * USUAL_GAPS);
  const words: Group[][] = [];
  groups.forEach((group, i) => {
    if (i === 0 || gaps[i - 1] > least) words.push([]);
    words.at(-1)!.push(group);
  });
  return words;
}

const [DIGITS, CAPITALS, SMALL] = ['0123456789', 'ABCDEFGHIJKLMNOPQRSTUVWXYZ', 'abcdefghijklmnopqrstuvwxyz'];
/** Signs among digits and among letters. They are rarer than what they look like. */
const [SUM_SIGNS, WORD_SIGNS] = ['+-=()/.,:?', '-.,:?!'];
const SIGN_COST = 0.012;
/** Letters without a part that rises or hangs, as a share of a tall one; others are as tall. */
const LOW = 'acemnorsuvwxz';
const LOW_SHARE = 0.66;
const HEIGHT_COST = 0.18;
/** A letter that is not in a set counts as if it were so far off. */
const FAR = 0.25;

/** What words are made of, and what it costs each letter of such a word. */
const KINDS = [
  { first: DIGITS, rest: DIGITS, signs: SUM_SIGNS, cost: 0 },
  { first: CAPITALS, rest: CAPITALS, signs: WORD_SIGNS, cost: 0.002 },
  { first: SMALL, rest: SMALL, signs: WORD_SIGNS, cost: 0.003 },
  { first: CAPITALS, rest: SMALL, signs: WORD_SIGNS, cost: 0.006 },
  { first: DIGITS + CAPITALS, rest: DIGITS + CAPITALS, signs: SUM_SIGNS, cost: 0.014 },
];

/** What each letter of a word may be, the likeliest first: a word is a number, in capitals, or in small letters. */
function meantAs(word: readonly Group[], tall: number): string[][] {
  const ways = KINDS.flatMap((kind) => {
    // Letters that are all as tall as one another may be capitals, or small letters without a taller one beside them.
    const isEvenlyTall = word.every(({ box }) => box.bottom - box.top > tall * 0.8);
    const talls = kind.rest === SMALL && isEvenlyTall ? [tall, tall / LOW_SHARE] : [tall];
    return talls.map((height) => wayOf(word, kind, height));
  });
  const meant = ways.reduce((best, way) => (way.cost < best.cost ? way : best));
  return word.map(({ choices }, i) => [...new Set([meant.letters[i], ...choices.map(({ letter }) => letter)])]);
}

/** A word read as one of a kind. */
function wayOf(word: readonly Group[], { first, rest, signs, cost }: (typeof KINDS)[number], tall: number) {
  let sum = cost * word.length;
  const letters = word.map(({ choices, box }, i) => {
    const set = i === 0 ? first : rest;
    const share = Math.min(1.2, (box.bottom - box.top) / tall);
    let best = { letter: choices[0].letter, cost: FAR };
    for (const { letter, distance } of choices) {
      const isSign = signs.includes(letter);
      if (!isSign && !set.includes(letter)) continue;
      const misfit = Math.abs(share - (LOW.includes(letter) ? LOW_SHARE : 1));
      const own = distance + (isSign ? SIGN_COST : HEIGHT_COST * misfit);
      if (own < best.cost) best = { letter, cost: own };
    }
    sum += best.cost;
    return best.letter;
  });
  return { letters, cost: sum };
}
