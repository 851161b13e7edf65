import type { Key } from '../lesson/frame/keys';
import { useRecordingNow } from '../lesson/recording-now';
import { useMarking } from './marking';
import { useNeighbours } from './neighbours';

/** Keys that go through all replies. */
export function useMarkingKeys(): Key[] {
  const marking = useMarking();
  const recording = useRecordingNow();
  const { go, back } = useNeighbours();
  const canLeave = () => recording.isIdle;

  return [
    {
      keys: 'F',
      does: 'The next reply',
      when: () => canLeave() && marking.next !== null,
      run: () => go(marking.next),
    },
    {
      keys: 'D',
      does: 'The reply before',
      when: () => canLeave() && marking.before !== null,
      run: () => go(marking.before),
    },
    { keys: 'M', does: 'All replies', when: canLeave, run: back },
  ];
}
