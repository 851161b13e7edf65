import type { FilmSettings } from '@kite-trail/core/film/settings';
import { encoderConfig } from '../../workers/film/frame-encoder';

/** Whether this browser can make films at all. */
export const canMakeFilms = (): boolean =>
  typeof VideoEncoder !== 'undefined' && navigator.storage !== undefined && 'getDirectory' in navigator.storage;

/** Whether this browser has an encoder for a film. */
export async function canEncode(settings: FilmSettings): Promise<boolean> {
  if (typeof VideoEncoder === 'undefined') return false;
  const { supported } = await VideoEncoder.isConfigSupported(encoderConfig(settings)).catch(() => ({
    supported: false,
  }));
  return supported === true;
}
