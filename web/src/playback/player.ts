/** Plays a programme, and is the clock of its pictures. Times are samples of the programme. */
export interface Player {
  onTick: (samples: number) => void;
  onPlaying: (playing: boolean) => void;
  readonly lengthSamples: number;
  readonly samples: number;
  play(): Promise<void>;
  pause(): void;
  seek(samples: number): void;
  setRate(rate: number): void;
  dispose(): void;
}

export const SPEEDS = [0.75, 1, 1.25, 1.5, 2] as const;
