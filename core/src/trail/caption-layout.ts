import { secondsToSamples } from './clock';
import type { Stretch } from './edit';
import { lengthOf } from './quiet';

/** Two lines of so many letters are read at a glance (common practice in captioning). */
const MOST_LETTERS = 74;
/** So long a caption stays readable and is not forgotten; what is shorter joins its neighbour, if that is near. */
const LONGEST_SAMPLES = secondsToSamples(6);
const SHORTEST_SAMPLES = secondsToSamples(1.2);
const NEAR_SAMPLES = secondsToSamples(0.7);
/** A caption's end goes to a pause that is as near as this. */
const SNAP_SAMPLES = secondsToSamples(0.6);

/** Lays out stretches of speech as captions that are ready to be filled. */
export function captionStretches(spoken: readonly Stretch[]): Stretch[] {
  const gathered: Stretch[] = [];
  for (const one of spoken) {
    const last = gathered.at(-1);
    const isBit = last && Math.min(lengthOf(last), lengthOf(one)) < SHORTEST_SAMPLES;
    const isNear = last && one.fromSamples - last.toSamples < NEAR_SAMPLES;
    if (isBit && isNear && one.toSamples - last.fromSamples <= LONGEST_SAMPLES) last.toSamples = one.toSamples;
    else gathered.push({ ...one });
  }
  return gathered.flatMap((one) => {
    const count = Math.ceil(lengthOf(one) / LONGEST_SAMPLES);
    const end = (n: number) => one.fromSamples + Math.round((lengthOf(one) * n) / count);
    return Array.from({ length: count }, (_, n) => ({ fromSamples: end(n), toSamples: end(n + 1) }));
  });
}

/** A text with the stretch in which it is spoken. */
export interface SpokenText extends Stretch {
  text: string;
}

/**
 * Spreads a script over the stretches in which somebody speaks: it is divided where one breathes, and every letter takes
 * as long as another. Ends near a pause go to it.
 * @returns nothing where nobody speaks or nothing is written
 */
export function spreadScript(script: string, spoken: readonly Stretch[]): SpokenText[] {
  const parts = captionParts(script);
  const letters = parts.reduce((sum, part) => sum + part.length, 0);
  const speech = spoken.reduce((sum, one) => sum + lengthOf(one), 0);
  if (letters === 0 || speech === 0) return [];
  let passed = 0;
  const ends = parts.map((part) => toPause((passed += part.length) * (speech / letters), spoken));
  const found: SpokenText[] = [];
  let from = 0;
  for (const [i, text] of parts.entries()) {
    const to = i === parts.length - 1 ? speech : ends[i];
    // Two ends may have gone to the same pause.
    if (to > from)
      found.push({ text, fromSamples: heardAt(from, spoken, 'next'), toSamples: heardAt(to, spoken, 'last') });
    else if (found.length > 0) found[found.length - 1].text += ` ${text}`;
    else parts[i + 1] = `${text} ${parts[i + 1]}`;
    from = Math.max(from, to);
  }
  return found;
}

/** A script in parts that are read at a glance: sentences, or what lies between commas, or else words. */
export function captionParts(script: string): string[] {
  const sentences = script
    .split(/\n+/)
    .flatMap((line) => line.match(/[^.!?…]+(?:[.!?…]+["”’)]*|$)/g) ?? [])
    .map((one) => one.trim().replace(/\s+/g, ' '))
    .filter((one) => one !== '');
  return sentences.flatMap((sentence) => {
    const count = Math.ceil(sentence.length / MOST_LETTERS);
    return count === 1 ? [sentence] : divided(sentence, count);
  });
}

/** Divides a sentence into about equal parts, rather behind a comma than elsewhere. */
function divided(sentence: string, count: number): string[] {
  const words = sentence.split(' ');
  const parts: string[] = [];
  let part = '';
  for (const word of words) {
    const isFull = part.length + 1 + word.length > MOST_LETTERS;
    const isEnough = part.length >= sentence.length / count - 12 && /[,;:–]$/.test(part);
    if (part !== '' && (isFull || isEnough)) {
      parts.push(part);
      part = word;
    } else {
      part = part === '' ? word : `${part} ${word}`;
    }
  }
  return [...parts, part];
}

/** The end of the stretch of speech that is nearest to so much speech, if it is near. */
function toPause(speechSamples: number, spoken: readonly Stretch[]): number {
  let end = 0;
  let nearest = speechSamples;
  for (const one of spoken) {
    end += lengthOf(one);
    const isNearer = nearest === speechSamples || Math.abs(end - speechSamples) < Math.abs(nearest - speechSamples);
    if (Math.abs(end - speechSamples) <= SNAP_SAMPLES && isNearer) nearest = end;
  }
  return nearest;
}

/** When so much has been spoken; in a pause, at the end of what was spoken last, or where speech goes on. */
function heardAt(speechSamples: number, spoken: readonly Stretch[], inPause: 'last' | 'next'): number {
  let left = speechSamples;
  for (const one of spoken) {
    const length = lengthOf(one);
    if (left < length || (left === length && inPause === 'last')) return Math.round(one.fromSamples + left);
    left -= length;
  }
  return spoken[spoken.length - 1].toSamples;
}
