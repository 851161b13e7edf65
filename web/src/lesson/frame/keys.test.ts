import { describe, expect, it } from 'vitest';
import { keyOf } from './keys';

const pressed = (key: string, within = '', more: Partial<KeyboardEvent> = {}) =>
  keyOf({
    key,
    target: {
      closest: (selector: string) => selector.split(', ').includes(within) || null,
      getAttribute: (name: string) => (name === 'role' && within === 'slider' ? 'slider' : null),
    },
    ...more,
  } as unknown as KeyboardEvent);

describe('a key that is pressed', () => {
  it.each([
    ['R', 'r', {}],
    ['R', 'R', { shiftKey: true }],
    ['Space', ' ', {}],
    ['Esc', 'Escape', {}],
    ['Page down', 'PageDown', {}],
    ['Arrows', 'ArrowLeft', {}],
    ['1–9', '7', {}],
    ['0', '0', {}],
    ['−', '-', {}],
    ['?', '?', { shiftKey: true }],
    ['Delete', 'Backspace', {}],
    ['Shift Delete', 'Delete', { shiftKey: true }],
    ['Ctrl A', 'a', { ctrlKey: true }],
    ['Ctrl Z', 'z', { metaKey: true }],
    ['Ctrl Shift Z', 'Z', { ctrlKey: true, shiftKey: true }],
  ])('is %s', (name, key, more) => {
    expect(pressed(key, '', more)).toBe(name);
  });

  it('is left alone where somebody types, on what it belongs to, and with what belongs to the system', () => {
    expect(pressed('r', 'input')).toBeNull();
    expect(pressed('r', '[role="dialog"]')).toBeNull();
    expect(pressed(' ', 'button')).toBeNull();
    expect(pressed('r', 'button')).toBe('R');
    expect(pressed('End', 'slider')).toBeNull();
    expect(pressed('PageUp', 'slider')).toBeNull();
    expect(pressed('f', '', { altKey: true })).toBeNull();
  });
});
