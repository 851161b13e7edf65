import { FormatError } from './bytes';

/** Words with the time at which they are read. */
export interface TimedText {
  startMs: number;
  endMs: number;
  /** Plain text; lines are separated by `\n`, and none is empty. */
  text: string;
}

const ARROW = '-->';
/** Hours may be missing, and have any number of digits; SubRip writes a comma before the milliseconds. */
const TIME = /^(?:(\d{2,}):)?([0-5]\d):([0-5]\d)[.,](\d{3})$/;

/**
 * Writes WebVTT (W3C WebVTT: The Web Video Text Tracks Format, section 4.1).
 * @param cues in the order of their times
 */
export function writeWebVtt(cues: readonly TimedText[]): string {
  const blocks = cues.map(({ startMs, endMs, text }) => {
    const escaped = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
    return `${timeText(startMs, '.')} ${ARROW} ${timeText(endMs, '.')}\n${withoutGaps(escaped)}\n`;
  });
  return ['WEBVTT\n', ...blocks].join('\n');
}

/** Writes SubRip, as common players read it: cues numbered from 1, a comma before the milliseconds. */
export function writeSubRip(cues: readonly TimedText[]): string {
  return cues
    .map(({ startMs, endMs, text }, i) => {
      return `${i + 1}\n${timeText(startMs, ',')} ${ARROW} ${timeText(endMs, ',')}\n${withoutGaps(text)}\n`;
    })
    .join('\n');
}

/**
 * Reads WebVTT (W3C WebVTT, section 6.1) or SubRip. Notes, styles, regions, settings and marked-up styles are left out, and
 * so is a cue whose times cannot be read.
 * @throws FormatError where there is nothing to read
 */
export function readTimedText(source: string): TimedText[] {
  const text = source
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .replaceAll('\0', '\uFFFD');
  const isWebVtt = /^WEBVTT(?:[ \t][^\n]*)?(?:\n|$)/.test(text);
  const cues = blocksOf(text).flatMap(cueOf);
  if (!isWebVtt && cues.length === 0) {
    throw new FormatError(
      'These are no captions: WebVTT begins with “WEBVTT”, and SubRip has times such as 00:00:01,000.',
    );
  }
  return cues;
}

/** Runs of lines that are not empty; a line with an arrow begins a cue of its own. */
function blocksOf(text: string): string[][] {
  const blocks: string[][] = [];
  let block: string[] = [];
  for (const line of [...text.split('\n'), '']) {
    const isSecondCue = line.includes(ARROW) && block.some((one) => one.includes(ARROW));
    if (line !== '' && !isSecondCue) {
      block.push(line);
      continue;
    }
    if (block.length > 0) blocks.push(block);
    block = isSecondCue ? [line] : [];
  }
  return blocks;
}

function cueOf(lines: readonly string[]): TimedText[] {
  // A cue's name may come before its times, and nothing else.
  const at = lines.findIndex((line) => line.includes(ARROW));
  if (at < 0 || at > 1) return [];
  const [start, rest] = lines[at].split(ARROW);
  const startMs = timeOf(start.trim());
  const endMs = timeOf(rest.trim().split(/[ \t]/)[0]);
  const text = plain(lines.slice(at + 1).join('\n'));
  return startMs === null || endMs === null || endMs <= startMs || text === '' ? [] : [{ startMs, endMs, text }];
}

function timeOf(text: string): number | null {
  const found = TIME.exec(text);
  if (!found) return null;
  const [, hours = '0', minutes, seconds, ms] = found;
  return ((Number(hours) * 60 + Number(minutes)) * 60 + Number(seconds)) * 1000 + Number(ms);
}

function timeText(ms: number, point: '.' | ','): string {
  const whole = Math.max(0, Math.round(ms));
  const digits = (value: number, count: number) => String(Math.floor(value)).padStart(count, '0');
  const parts = [whole / 3_600_000, (whole / 60_000) % 60, (whole / 1000) % 60].map((part) => digits(part, 2));
  return `${parts.join(':')}${point}${digits(whole % 1000, 3)}`;
}

/** The entities that cue text knows (section 6.4); all others are as they stand. */
const ENTITIES: Record<string, string> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&nbsp;': '\u00A0',
  '&lrm;': '\u200E',
  '&rlm;': '\u200F',
};

function plain(text: string): string {
  // A tag that is never closed reaches to the end.
  const untagged = text.replace(/<[^>]*(?:>|$)/g, '');
  return withoutGaps(untagged.replace(/&(?:amp|lt|gt|nbsp|lrm|rlm);/g, (entity) => ENTITIES[entity]));
}

const withoutGaps = (text: string) =>
  text
    .replaceAll('\0', '')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .join('\n');
