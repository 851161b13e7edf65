import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { CourseReport } from './course';

const LENGTH = secondsToSamples(200);
/** The window of the page, which is in no other. */
const frame = new EventTarget() as EventTarget & Record<string, unknown>;
frame.parent = frame;

/** A course system that keeps what it is told. @param prefix of its calls */
function system(prefix: string, kept: Record<string, string> = {}) {
  const told: string[] = [];
  const call = (name: string, answer: (...values: string[]) => string) => {
    return [`${prefix}${name}`, (...values: string[]) => (told.push(name), answer(...values))] as const;
  };
  const api = Object.fromEntries([
    call('Initialize', () => 'true'),
    call('GetValue', (name) => kept[name] ?? ''),
    call('SetValue', (name, value) => ((kept[name] = value), 'true')),
    call('Commit', () => 'true'),
    call(prefix ? 'Finish' : 'Terminate', () => 'true'),
  ]);
  return { api, kept, told };
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('window', frame);
});
afterEach(() => {
  frame.dispatchEvent(new Event('pagehide'));
  vi.useRealTimers();
  vi.unstubAllGlobals();
  delete frame.API;
  delete frame.API_1484_11;
});

const hearAll = (report: CourseReport, fromSeconds: number, toSeconds: number) => {
  for (let at = fromSeconds; at < toSeconds; at++) report.hear(secondsToSamples(at));
  vi.advanceTimersByTime(6000);
};

describe('a report to a course system', () => {
  it('is none where there is no course system', () => expect(CourseReport.begin(LENGTH)).toBeNull());

  it('says where somebody is, and that they are done once they have heard nearly all of it', () => {
    const { api, kept, told } = system('LMS');
    frame.API = api;
    const report = CourseReport.begin(LENGTH)!;
    expect(kept['cmi.core.lesson_status']).toBe('incomplete');
    hearAll(report, 0, 100);
    expect(kept['cmi.core.lesson_location']).toBe('99.0');
    // Whoever jumps to the end has not heard what is before it.
    report.hear(LENGTH);
    vi.advanceTimersByTime(6000);
    expect(kept['cmi.core.lesson_status']).toBe('incomplete');
    hearAll(report, 100, 196);
    expect(kept['cmi.core.lesson_status']).toBe('completed');
    frame.dispatchEvent(new Event('pagehide'));
    expect(told.at(-1)).toBe('Finish');
  });

  it('goes on with what was heard before, and takes nothing back', () => {
    const { api, kept } = system('LMS');
    frame.API = api;
    hearAll(CourseReport.begin(LENGTH)!, 0, 120);
    frame.dispatchEvent(new Event('pagehide'));
    const report = CourseReport.begin(LENGTH)!;
    expect(report.goesOnAtSeconds).toBe(119);
    hearAll(report, 120, 200);
    expect(kept['cmi.core.lesson_status']).toBe('completed');
    frame.dispatchEvent(new Event('pagehide'));
    hearAll(CourseReport.begin(LENGTH)!, 0, 10);
    expect(kept['cmi.core.lesson_status']).toBe('completed');
  });

  it('speaks to systems of the later standard as they want it, with how much was heard', () => {
    const { api, kept, told } = system('');
    frame.API_1484_11 = api;
    hearAll(CourseReport.begin(LENGTH)!, 0, 50);
    expect(kept).toMatchObject({ 'cmi.completion_status': 'incomplete', 'cmi.progress_measure': '0.25' });
    frame.dispatchEvent(new Event('pagehide'));
    expect(told.at(-1)).toBe('Terminate');
  });
});
