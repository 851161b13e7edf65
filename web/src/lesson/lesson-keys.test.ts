import { describe, expect, it } from 'vitest';
import { LESSON_KEYS, pressed } from './lesson-keys';

const key = (name: string, within = '', more: Partial<KeyboardEvent> = {}) =>
  pressed({
    key: name,
    target: { closest: (selector: string) => selector.split(', ').includes(within), getAttribute: () => null },
    ...more,
  } as unknown as KeyboardEvent);

describe('the keys of the lesson’s screen', () => {
  it('reach every action on the sheet', () => {
    const keys: Record<string, [string, Partial<KeyboardEvent>?]> = {
      R: ['R'],
      Space: [' '],
      'Page down': ['PageDown'],
      'Page up': ['PageUp'],
      Home: ['Home'],
      End: ['End'],
      '1–9': ['7'],
      '+': ['+'],
      '−': ['-'],
      '0': ['0'],
      Arrows: ['ArrowDown'],
      W: ['w'],
      V: ['v'],
      I: ['i'],
      Esc: ['Escape'],
      A: ['a'],
      N: ['n'],
      G: ['g'],
      T: ['t'],
      L: ['l'],
      'Ctrl A': ['a', { ctrlKey: true }],
      'Ctrl D': ['d', { ctrlKey: true }],
      P: ['p'],
      H: ['h'],
      E: ['e'],
      'Ctrl Z': ['z', { ctrlKey: true }],
      'Ctrl Shift Z': ['Z', { ctrlKey: true, shiftKey: true }],
      '[': ['['],
      ']': [']'],
      Delete: ['Backspace'],
      'Shift Delete': ['Delete', { shiftKey: true }],
      S: ['s'],
      '.': ['.'],
      ',': [','],
      B: ['b'],
      '?': ['?'],
    };
    for (const { keys: name, action } of LESSON_KEYS) expect(key(keys[name][0], '', keys[name][1])).toBe(action);
  });

  it('are left alone where somebody types, and space on a button presses it', () => {
    expect(key('r', 'input')).toBeNull();
    expect(key(' ', 'button')).toBeNull();
    expect(key('r', 'button')).toBe('record');
    expect(key('r', '', { ctrlKey: true })).toBeNull();
  });
});
