/**
 * The words of a caption, and which of them is spoken just then: words take as long as they have letters.
 * @param share how much of the caption's time has gone by, 0 to 1
 */
export function litWords(text: string, share: number): { word: string; isLit: boolean }[] {
  const words = text.split(/(?<=\s)/u);
  const letters = words.map((word) => Math.max(1, word.trim().length));
  const all = letters.reduce((sum, count) => sum + count, 0);
  let gone = 0;
  return words.map((word, i) => {
    const from = gone / all;
    gone += letters[i];
    return { word, isLit: share >= from && share < gone / all };
  });
}
