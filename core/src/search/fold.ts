/**
 * A text as it is searched: without case, marks over letters, and differences of width, so that "resume" finds "Résumé". Letters that
 * are not made of another one and a mark stay what they are. Whitespace becomes single spaces.
 * Source: Unicode Standard Annex #15, form KD; Unicode Standard, chapter 3.13 (caseless matching, approximated by lower case).
 */
export const folded = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/ς/g, 'σ')
    .replace(/\s+/gu, ' ')
    .trim();

/** As many words as are looked for at once: who writes more has pasted a text. */
const MOST_WORDS = 8;

/** The words of what was typed, folded; each is looked for anywhere, also within a word. */
export const wordsOf = (asked: string): string[] =>
  [...new Set(folded(asked).split(' '))].filter(Boolean).slice(0, MOST_WORDS);

/**
 * Where the words stand in a text: stretches of its UTF-16 units, in order, not overlapping.
 * Letters are folded one by one, so that a place in what was folded is a place in what was written.
 */
export function findWords(text: string, words: readonly string[]): { from: number; to: number }[] {
  let all = '';
  // Of each folded unit, the letter it was made of: one letter, such as "㎞", may have become several units.
  const letters: { from: number; to: number }[] = [];
  for (let at = 0; at < text.length;) {
    const letter = String.fromCodePoint(text.codePointAt(at)!);
    const plain = foldedLetter(letter);
    const stretch = { from: at, to: at + letter.length };
    for (let i = 0; i < plain.length; i++) letters.push(stretch);
    all += plain;
    at = stretch.to;
  }
  const found: { from: number; to: number }[] = [];
  for (const word of words) {
    for (let at = all.indexOf(word); at >= 0; at = all.indexOf(word, at + word.length)) {
      found.push({ from: letters[at].from, to: afterMarks(text, letters[at + word.length - 1].to) });
    }
  }
  return merged(found.sort((a, b) => a.from - b.from));
}

function foldedLetter(letter: string): string {
  if (/\s/u.test(letter)) return ' ';
  // Most letters are plain, and these are folded ten times as fast so.
  return letter <= LAST_ASCII ? letter.toLowerCase() : folded(letter);
}
const LAST_ASCII = '\x7f';

/** Marks that stand over a letter belong to it. */
function afterMarks(text: string, at: number): number {
  let end = at;
  while (end < text.length && /\p{Mn}/u.test(text[end])) end++;
  return end;
}

function merged(found: readonly { from: number; to: number }[]): { from: number; to: number }[] {
  const all: { from: number; to: number }[] = [];
  for (const one of found) {
    const last = all.at(-1);
    if (last && one.from <= last.to) last.to = Math.max(last.to, one.to);
    else all.push({ ...one });
  }
  return all;
}

/** So much of a long text is shown around what was found in it. */
const AROUND = 60;

/** The part of a text around the first of the words. */
export function excerptOf(text: string, words: readonly string[]): string {
  if (text.length <= 2 * AROUND) return text;
  const [first] = findWords(text, words);
  if (!first) return text;
  const from = startOfWord(text, Math.max(0, first.from - AROUND));
  const to = Math.min(text.length, first.to + AROUND);
  return `${from > 0 ? '… ' : ''}${text.slice(from, to)}${to < text.length ? ' …' : ''}`;
}

function startOfWord(text: string, at: number): number {
  if (at === 0) return 0;
  const space = text.indexOf(' ', at);
  return space < 0 || space > at + AROUND ? at : space + 1;
}
