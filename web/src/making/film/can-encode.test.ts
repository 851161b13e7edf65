import { USUAL_FILM, type FilmCodec } from '@kite-trail/core/film/settings';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { encoderOf } from './can-encode';

/** What this browser and the school's server have encoders for; `null`: the server is away. */
const able = vi.hoisted(() => ({ browser: [] as string[], school: null as FilmCodec[] | null, asked: 0 }));
vi.mock('../../server/films', () => ({
  filmApi: {
    codecs: async () => {
      able.asked++;
      if (!able.school) throw new Error('The server is away.');
      return able.school;
    },
  },
}));

const keepsFiles = { storage: { getDirectory: () => {} } };
beforeEach(() => {
  Object.assign(able, { browser: [], school: null, asked: 0 });
  vi.stubGlobal('navigator', keepsFiles);
  vi.stubGlobal('AudioEncoder', class {});
  vi.stubGlobal('VideoEncoder', {
    isConfigSupported: async ({ codec }: { codec: string }) => ({
      supported: able.browser.some((one) => codec.startsWith(one)),
    }),
  });
});
const encoder = (codec: FilmCodec) => encoderOf({ ...USUAL_FILM, codec });

describe('who encodes a film', () => {
  it('is this browser where it can, the school’s server where that can, and nobody else', async () => {
    able.browser = ['avc1'];
    able.school = ['avc', 'vp9'];
    expect([await encoder('avc'), await encoder('vp9'), await encoder('av1')]).toEqual(['browser', 'school', null]);
    vi.stubGlobal('VideoEncoder', undefined);
    expect(await encoder('avc')).toBe('school');
    // A WebM's sound is Opus, which this browser would have to encode.
    vi.stubGlobal('AudioEncoder', undefined);
    expect([await encoder('avc'), await encoder('vp9')]).toEqual(['school', null]);
    // A film is put together in a file of this device, whoever encodes it.
    vi.stubGlobal('navigator', {});
    expect(await encoder('avc')).toBe(null);
  });
});

describe('a school that cannot be reached', () => {
  it('is asked again the next time, and not once it has answered', async () => {
    vi.resetModules();
    const { encoderOf: anew } = await import('./can-encode');
    expect(await anew(USUAL_FILM)).toBe(null);
    able.school = ['avc'];
    expect(await anew(USUAL_FILM)).toBe('school');
    expect(await anew(USUAL_FILM)).toBe('school');
    expect(able.asked).toBe(2);
  });
});
