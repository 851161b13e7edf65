import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readDrives } from './school-drives';
import { KEY_BYTES, Seal } from './seal';

const key = (letter: number) => new Seal(Buffer.alloc(KEY_BYTES, letter));

describe('a sealed secret', () => {
  it('opens by its own key and for what it is, and is another each time', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), fc.string(), (secret, about) => {
        const sealed = key(1).close(secret, about);
        expect(key(1).open(sealed, about)).toBe(secret);
        expect(key(2).open(sealed, about)).toBeNull();
        expect(key(1).open(sealed, `${about}.`)).toBeNull();
        expect(key(1).close(secret, about).equals(sealed)).toBe(false);
      }),
    );
  });

  it('does not open when any of its bits has changed, or some are missing', () => {
    const sealed = key(1).close('cleat-hitch', 'marit');
    for (let bit = 0; bit < sealed.length * 8; bit++) {
      const damaged = Buffer.from(sealed);
      damaged[bit >> 3] ^= 1 << (bit & 7);
      expect(key(1).open(damaged, 'marit')).toBeNull();
    }
    for (let n = 0; n < sealed.length; n++) expect(key(1).open(sealed.subarray(0, n), 'marit')).toBeNull();
  });
});

describe('the school’s drives', () => {
  it('are read as they are written', () => {
    expect(readDrives(' Staff room = https://files.example/dav/{user}/ ;Boat house=http://nas:8080/; ')).toEqual([
      { id: 'staff-room', name: 'Staff room', address: 'https://files.example/dav/{user}/' },
      { id: 'boat-house', name: 'Boat house', address: 'http://nas:8080/' },
    ]);
  });

  it.each([
    'Staff room',
    'A = ftp://files.example/',
    'A = not an address',
    '= https://x.example/',
    '… = https://x.example/',
  ])('are refused where they are written as %j', (written) => expect(() => readDrives(written)).toThrow(/DRIVES/));

  it('are refused where two have one name', () =>
    expect(() => readDrives('A = https://x.example/; a = https://y.example/')).toThrow(/one name/));
});
