import type { HandIn, MarkingTable, Reply } from '@kite-trail/core/contract/task';
import { describe, expect, it } from 'vitest';
import { marksTable, stateOf, sumOf } from './marks';

const handIn = (more: Partial<HandIn> = {}): HandIn => ({
  id: 'hand-in-one' as never,
  lesson: 'lesson-one' as never,
  handedAt: '2026-11-30T09:00:00.000Z',
  saidAt: null,
  isLate: false,
  choice: null,
  lengthSamples: 0,
  pictureVersion: 1,
  isOpened: false,
  points: [3, null],
  note: '',
  givenAt: null,
  seenAt: null,
  answer: null,
  isChanged: false,
  ...more,
});
const reply = (lies: HandIn | null, wasTakenBack = false): Reply => ({
  id: 'reply-one' as never,
  begunAt: '2026-11-30T08:00:00.000Z',
  pictureVersion: 1,
  choice: null,
  handIn: lies,
  wasTakenBack,
});

describe('how it stands with a reply', () => {
  it('is told by what lies with the teacher', () => {
    const givenAt = '2026-11-30T10:00:00.000Z';
    expect([
      stateOf(null),
      stateOf(reply(null)),
      stateOf(reply(null, true)),
      stateOf(reply(handIn())),
      stateOf(reply(handIn({ isOpened: true }))),
      stateOf(reply(handIn({ isOpened: true, givenAt }))),
      stateOf(reply(handIn({ isOpened: true, givenAt, isChanged: true }))),
    ]).toEqual(['missing', 'begun', 'taken-back', 'new', 'opened', 'given', 'opened']);
  });
});

describe('marks', () => {
  it('are summed where there are any', () => {
    expect([sumOf(handIn()), sumOf(handIn({ points: [null, null] })), sumOf(handIn({ points: [0, 2] }))]).toEqual([
      3,
      null,
      2,
    ]);
  });

  it('are a table with a line a student', () => {
    const table = {
      task: {
        criteria: [
          { name: 'Marks', points: 4 },
          { name: 'Bearing', points: 6 },
        ],
      },
      rows: [
        { student: { id: 's1', name: 'Ida' }, reply: reply(handIn({ isLate: true, note: 'Look again.' })) },
        { student: { id: 's2', name: 'Ole' }, reply: null },
      ],
    } as unknown as MarkingTable;
    expect(marksTable(table)).toEqual([
      ['Name', 'Handed in', 'Late', 'Marks (of 4)', 'Bearing (of 6)', 'Sum (of 10)', 'Note', 'Given back', 'Seen'],
      ['Ida', '2026-11-30T09:00:00.000Z', 'late', 3, null, 3, 'Look again.', null, null],
      ['Ole', null, null, null, null, null, null, null, null],
    ]);
  });
});
