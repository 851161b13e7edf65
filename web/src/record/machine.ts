import type { TakePlan } from '@kite-trail/core/trail/plan';

/** What a recording is at one moment, with what there is of it then. `R` is what is known of a take being made. */
export type Recording<R> =
  | { is: 'idle' }
  /** Seconds are counted; the microphone may still be opening. */
  | { is: 'counting'; plan: TakePlan; run: R | null }
  /** What precedes the stretch is played. */
  | { is: 'run-up'; plan: TakePlan; run: R }
  | { is: 'recording'; plan: TakePlan; run: R }
  | { is: 'paused'; plan: TakePlan; run: R }
  /** What was recorded is being kept, or what was begun is being given up. */
  | { is: 'ending'; plan: TakePlan; run: R | null };

export type RecordingEvent<R> =
  | { of: 'begin'; plan: TakePlan }
  | { of: 'opened'; run: R }
  | { of: 'run-up' }
  /** The first sound has come in: from now on it is kept. */
  | { of: 'heard' }
  | { of: 'pause' }
  | { of: 'resume' }
  | { of: 'stop' }
  | { of: 'cancel' }
  | { of: 'over' };

/**
 * What a recording is after something has happened. What cannot happen then changes nothing, and gives back the same: so nothing
 * begins twice, and what has begun is never given up.
 */
export function after<R>(now: Recording<R>, event: RecordingEvent<R>): Recording<R> {
  switch (event.of) {
    case 'begin':
      return now.is === 'idle' ? { is: 'counting', plan: event.plan, run: null } : now;
    case 'opened':
      return now.is === 'counting' && now.run === null ? { ...now, run: event.run } : now;
    case 'run-up':
      return now.is === 'counting' && now.run !== null ? { is: 'run-up', plan: now.plan, run: now.run } : now;
    case 'heard': {
      const isStarting = now.is === 'counting' || now.is === 'run-up';
      return isStarting && now.run !== null ? { is: 'recording', plan: now.plan, run: now.run } : now;
    }
    case 'pause':
      return now.is === 'recording' ? { ...now, is: 'paused' } : now;
    case 'resume':
      return now.is === 'paused' ? { ...now, is: 'recording' } : now;
    case 'stop':
      return now.is === 'recording' || now.is === 'paused' ? { ...now, is: 'ending' } : now;
    case 'cancel':
      return now.is === 'counting' || now.is === 'run-up' ? { ...now, is: 'ending' } : now;
    case 'over':
      // A microphone that cannot be opened ends what is being counted, too.
      return now.is === 'recording' || now.is === 'paused' ? now : { is: 'idle' };
  }
}
