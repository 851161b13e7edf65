import type { AssetId, TakeId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';

/** One unbroken run of recording. It never changes once it has ended. */
export interface Take {
  id: TakeId;
  lengthSamples: number;
  /** Ogg Opus at the take's clock, or `null` where it was recorded without voice. */
  sound: AssetId | null;
  /** In the order of their times. */
  marks: readonly Mark[];
}
