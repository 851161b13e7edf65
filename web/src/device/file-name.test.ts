import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fileNameOf } from './file-name';

describe('the name of a file', () => {
  it.each([
    ['Knots: “bowline” / 2', 'Knots “bowline” 2.mp4'],
    ['קשרים', 'קשרים.mp4'],
    ['Entrée du port', 'Entrée du port.mp4'],
    ['...', 'lesson.mp4'],
    ['', 'lesson.mp4'],
    ['../../etc/passwd', 'etc passwd.mp4'],
  ])('keeps what any file system takes: %s', (title, name) => expect(fileNameOf(title, '.mp4')).toBe(name));

  it('is taken by all of them, whatever a lesson is called', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 200 }), (title) => {
        const name = fileNameOf(title, '.mp4');
        expect(new TextEncoder().encode(name).length).toBeLessThanOrEqual(255);
        expect(name).not.toMatch(/[<>:"/\\|?*\u0000-\u001f\u0080-\u009f]|^\.|^ | $/); // eslint-disable-line no-control-regex
        expect(name).not.toMatch(/^(con|prn|aux|nul|com\d|lpt\d)\.mp4$/i);
        expect(name).not.toMatch(/\p{Surrogate}/u);
        expect(name.length).toBeGreaterThan('.mp4'.length);
      }),
    );
  });
});
