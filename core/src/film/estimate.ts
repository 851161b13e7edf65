import { pictureSize, soundCodecOf, type FilmCodec, type FilmSettings } from './settings';
import { soundBytes } from './sound';

/** What a film shows, in numbers. */
export interface FilmMeasure {
  seconds: number;
  /** In which something changes. */
  frames: number;
  hasSound: boolean;
}

/**
 * Bytes a changed frame takes at 1280 × 720 in good quality: measured on the demo's lessons, where one in 150 frames is a key frame,
 * about.
 */
const FRAME_BYTES: Record<FilmCodec, number> = { avc: 1130, av1: 480, vp9: 4500 };
const QUALITY = { small: 0.8, good: 1, best: 1.25 };
const USUAL_PIXELS = 1280 * 720;
/** What moves is thin: twice as many pixels have less than twice as much of it. */
const GROWTH = 0.8;

/** How large a film will be, in bytes, about: what is told before it is made. */
export function filmBytes(settings: FilmSettings, { seconds, frames, hasSound }: FilmMeasure): number {
  const { widthPx, heightPx } = pictureSize(settings);
  const ofSize = ((widthPx * heightPx) / USUAL_PIXELS) ** GROWTH;
  const ofPictures = frames * FRAME_BYTES[settings.codec] * ofSize * QUALITY[settings.quality];
  const ofSound = hasSound ? soundBytes(soundCodecOf(settings.codec), seconds) : 0;
  return Math.round(ofPictures + ofSound);
}
