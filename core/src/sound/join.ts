/** Blocks of samples that follow one another, as one. */
export function joinSamples(blocks: readonly Float32Array[]): Float32Array<ArrayBuffer> {
  const joined = new Float32Array(blocks.reduce((sum, block) => sum + block.length, 0));
  let at = 0;
  for (const block of blocks) {
    joined.set(block, at);
    at += block.length;
  }
  return joined;
}
