import { soundCodecOf, type FilmCodec, type FilmSettings } from '@kite-trail/core/film/settings';
import { filmApi } from '../../server/films';
import { encoderConfig } from '../../workers/film/frame-encoder';

/** Who encodes a film: this browser, or the school's server. */
export type Encoder = 'browser' | 'school';

/** What is told where nobody has an encoder. */
export const NO_ENCODER =
  'This browser cannot make videos, and the school’s server cannot, either. Use a current Chrome, Edge, Firefox or Safari. Links work in all.';

let asked: Promise<readonly FilmCodec[]> | null = null;

/** What the school's server can encode; nothing while it cannot be asked. */
function schoolCodecs(): Promise<readonly FilmCodec[]> {
  asked ??= filmApi.codecs().catch(() => {
    asked = null;
    return [];
  });
  return asked;
}

/** Whether this browser can join a film: it is too large to be anywhere but in a file. */
const keepsFiles = (): boolean => navigator.storage !== undefined && 'getDirectory' in navigator.storage;

/** Who has an encoder for a film: `null` where nobody has. */
export async function encoderOf(settings: FilmSettings): Promise<Encoder | null> {
  if (!keepsFiles()) return null;
  if (await browserEncodes(settings)) return 'browser';
  // Sound is encoded here: AAC everywhere, Opus where the browser can.
  if (soundCodecOf(settings.codec) === 'opus' && typeof AudioEncoder === 'undefined') return null;
  return (await schoolCodecs()).includes(settings.codec) ? 'school' : null;
}

async function browserEncodes(settings: FilmSettings): Promise<boolean> {
  if (typeof VideoEncoder === 'undefined') return false;
  const { supported } = await VideoEncoder.isConfigSupported(encoderConfig(settings)).catch(() => ({
    supported: false,
  }));
  return supported === true;
}
