import { taskAbout, type TaskAbout } from '@kite-trail/core/contract/task';
import { describe, expect, it, vi } from 'vitest';
import { aboutOf, draftOf, newDraft } from './task-draft';

vi.stubGlobal('location', { origin: 'https://lessons.example' });
const TOKEN = 'AbCdEfGhIjKlMnOpQrStUvWx';
const ABOUT: TaskAbout = {
  title: 'The leading line',
  question: 'Which marks?',
  dueAt: '2026-12-24T09:00:00.000Z',
  takesLate: false,
  allows: ['voice'],
  criteria: [{ name: 'Marks', points: 4 }],
  instruction: TOKEN,
  example: null,
  choices: [],
  isLive: false,
  isOpen: false,
};

describe('a task as it is typed', () => {
  it('says the same when it is read again, in whatever zone', () => {
    expect(aboutOf(draftOf(ABOUT))).toEqual(ABOUT);
    expect(draftOf(ABOUT).instruction).toBe(`https://lessons.example/w/${TOKEN}`);
    expect(taskAbout.parse(aboutOf(newDraft('Knots')))).toMatchObject({ title: 'Knots', dueAt: null, takesLate: true });
  });

  it('that cannot be says what is wrong with it', () => {
    const told = (more: object) => {
      try {
        return aboutOf({ ...newDraft('Knots'), ...more });
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(told({ title: ' ' })).toBe('Give the task a name.');
    expect(told({ criteria: [{ name: '', points: 1 }] })).toBe('Name what is looked at.');
    expect(told({ criteria: [{ name: 'A', points: 1.5 }] })).toBe('Points are whole numbers.');
    expect(told({ example: 'https://elsewhere.example/video' })).toMatch(/Paste the address of a watch link/);
  });
});
