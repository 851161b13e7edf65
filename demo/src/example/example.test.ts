import { watch } from '@kite-trail/core/contract/watch';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { exampleFiles } from './example';

const shipped = (name: string) => readFileSync(new URL(`../../../web/public/example/${name}`, import.meta.url));

describe('the example that ships', () => {
  it('is what `npm run example` makes', async () => {
    for (const [name, bytes] of Object.entries(await exampleFiles()))
      expect(Buffer.compare(shipped(name), Buffer.from(bytes)), name).toBe(0);
  });

  it('plays as a link does, with ink on its pages and chapters within its length', () => {
    const about = watch.parse(JSON.parse(shipped('about.json').toString()));
    const timeline = timelineOf(decodePayload(new Uint8Array(shipped('payload.bin'))));
    expect(timeline.lengthSamples).toBe(about.lengthSamples);
    expect(about.chapters.length).toBeGreaterThan(2);
    for (const { startSamples } of about.chapters) expect(startSamples).toBeLessThan(about.lengthSamples);
    const pieces = timeline.at(about.lengthSamples).scene.pages.flatMap((page) => page.pieces);
    expect(pieces.filter(({ kind }) => kind === 'stroke').length).toBeGreaterThan(50);
  });
});
