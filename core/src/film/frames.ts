import { shownPage } from '../lesson/scene';
import type { Placement } from '../paint/surface';
import type { Cue } from '../trail/captions';
import { CLOCK_HZ, samplesToSeconds } from '../trail/clock';
import type { Stretch } from '../trail/edit';
import type { Moment, Timeline } from '../trail/timeline';
import { placementInFilm } from './camera';
import { pictureSize, type FilmSettings } from './settings';

/** Frames that are encoded together: the first of them can be decoded without those before. */
export interface FilmPart {
  /** Indices at the film's rate; each is shown until the next. */
  frames: readonly number[];
  /** Until when its last one is shown, on the trail's clock. */
  untilSeconds: number;
}

/** Enough that encoders are seldom begun anew, and few enough that little is lost when one is. */
export const FRAMES_A_PART = 200;

/**
 * Divides a film into parts that can be made one by one, side by side, and after a break.
 * @param cues what is drawn into the picture while it lasts
 * @param framesAPart how many of them a part has at most
 * @returns parts with all frames in which something changes, in order; the first begins at 0
 */
export function filmParts(
  timeline: Timeline,
  framesPerSecond: number,
  cues: readonly Stretch[] = [],
  framesAPart = FRAMES_A_PART,
): FilmPart[] {
  const lengthSeconds = samplesToSeconds(timeline.lengthSamples);
  const last = Math.max(0, Math.ceil(lengthSeconds * framesPerSecond) - 1);
  const ofCues = cues.flatMap(({ fromSamples, toSamples }) =>
    [fromSamples, toSamples].map((samples) => Math.min(last, Math.ceil((samples / CLOCK_HZ) * framesPerSecond))),
  );
  const frames = [...new Set([...timeline.changedFrames(framesPerSecond), ...ofCues])].sort((a, b) => a - b);
  return Array.from({ length: Math.ceil(frames.length / framesAPart) }, (_, n) => {
    const next = frames[(n + 1) * framesAPart];
    return {
      frames: frames.slice(n * framesAPart, (n + 1) * framesAPart),
      untilSeconds: next === undefined ? Math.max(lengthSeconds, (last + 1) / framesPerSecond) : next / framesPerSecond,
    };
  });
}

const USUAL_PIXELS = 1280 * 720;
const LEAST_FRAMES = 10;

/** How many frames a part has that a server makes: it takes a few seconds for it, whatever its size, for it has others to answer. */
export function framesAtSchool(settings: FilmSettings): number {
  const { widthPx, heightPx } = pictureSize(settings);
  const share = Math.min(1, USUAL_PIXELS / (widthPx * heightPx));
  return Math.max(LEAST_FRAMES, Math.floor((FRAMES_A_PART * share) / 2));
}

/** At arm's length a picture of 20 cm shows it as a millimetre: ink that grows by no more may wait for the next frame. */
const HARDLY_OF_HEIGHT = 1 / 180;
/** Of fewer frames, none can be left out unseen. */
const LEAST_FRAMES_PER_SECOND = 30;

/**
 * Whether a moment shows hardly more than the one before: a stroke that was being written goes on by less than a 180th of the picture's
 * height. Whoever shows every second of such frames shows nothing later than by one frame, and no stroke's beginning later at all.
 */
export function isHardlyMore(
  before: Moment,
  after: Moment,
  { pxPerPt }: Pick<Placement, 'pxPerPt'>,
  { heightPx, framesPerSecond }: { heightPx: number; framesPerSecond: number },
): boolean {
  if (framesPerSecond < LEAST_FRAMES_PER_SECOND || before.scene !== after.scene) return false;
  if (before.passing.length > 0 || after.passing.length > 0) return false;
  const { pieces } = shownPage(after.scene);
  const mostPt = (heightPx * HARDLY_OF_HEIGHT) / pxPerPt;
  for (const [id, was] of before.growing) {
    const stroke = pieces.findLast((piece) => piece.id === id);
    if (stroke?.kind !== 'stroke' || was === 0) return false;
    const { xPt, yPt, count } = stroke.points;
    const is = after.growing.get(id) ?? count;
    if (Math.hypot(xPt[is - 1] - xPt[was - 1], yPt[is - 1] - yPt[was - 1]) > mostPt) return false;
  }
  return true;
}

/** A picture of a film part. */
export interface Shot {
  moment: Moment;
  /** How many of the part's frames are done with it. */
  framesDone: number;
  /** From when until when it is shown, on the trail's clock. */
  fromSeconds: number;
  toSeconds: number;
}

/** The pictures of a part, in order: the frames that are due, but for those that show hardly more than the one before. */
export function* shotsOf(
  { frames, untilSeconds }: FilmPart,
  timeline: Timeline,
  settings: FilmSettings,
): Generator<Shot> {
  const { framesPerSecond } = settings;
  const { heightPx } = pictureSize(settings);
  let before: Moment | null = null;
  for (const [i, frame] of frames.entries()) {
    const moment = timeline.at(Math.round((frame * CLOCK_HZ) / framesPerSecond));
    const isNextDue = frames[i + 1] === frame + 1;
    const measure = { heightPx, framesPerSecond };
    if (before && isNextDue && isHardlyMore(before, moment, placementInFilm(settings, moment), measure)) {
      // The next frame shows it. What comes after that one is measured against it, not against this one.
      before = null;
      continue;
    }
    before = moment;
    const toSeconds = i + 1 < frames.length ? frames[i + 1] / framesPerSecond : untilSeconds;
    yield { moment, framesDone: i + 1, fromSeconds: frame / framesPerSecond, toSeconds };
  }
}

/** What is read at a moment, where captions are drawn into the picture. */
export function drawnCaption(cues: readonly Cue[], seconds: number): string {
  const samples = seconds * CLOCK_HZ;
  const cue = cues.find(({ startSamples, endSamples }) => samples >= startSamples && samples < endSamples);
  return cue?.text ?? '';
}
