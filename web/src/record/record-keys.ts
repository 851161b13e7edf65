import type { Key } from '../lesson/frame/keys';
import { useDress } from '../lesson/frame/dress';
import { useSteps } from '../lesson/frame/steps';
import { useRecordHere } from './record-here';
import { useRecording } from './recording';

/** Keys that record. */
export function useRecordKeys(): Key[] {
  const recording = useRecording();
  const here = useRecordHere();
  const steps = useSteps();
  const dress = useDress();
  const canBegin = () =>
    dress.may('voice') && recording.state === 'idle' && (steps.now.value === 'prepare' || steps.now.value === 'record');

  return [
    { keys: 'R', does: 'Record, and stop', when: () => recording.isOn, run: () => void recording.stop() },
    { keys: 'R', does: 'Record, and stop', when: canBegin, run: () => here.record() },
    {
      keys: 'Space',
      does: 'While recording: pause or resume',
      when: () => recording.isOn,
      run: () => void (recording.state === 'paused' ? recording.resume() : recording.pause()),
    },
    {
      keys: 'Esc',
      does: 'Give up a countdown or a run-up',
      when: () => recording.isStarting,
      run: () => recording.cancel(),
    },
    {
      keys: 'I',
      does: 'While a new voice is spoken: let the ink wait, or go on',
      when: () => recording.isOn && recording.plan.kind === 're-speak',
      run: () => recording.holdInk(),
    },
  ];
}
