import { describe, expect, it } from 'vitest';
import { keepPlace, keptPlaces, momentNamed, placeToGoOn, shareSeen } from './kept-place';

const S = 48_000;

describe('how far somebody came', () => {
  it('is where they go on, unless they had hardly begun or all but ended', () => {
    const on = (at: number) => {
      keepPlace('token', { atSamples: at * S, lengthSamples: 100 * S, seenMs: 1 });
      return placeToGoOn('token', 100 * S) / S;
    };
    expect([3, 40, 97].map(on)).toEqual([0, 40, 0]);
    expect(shareSeen(keptPlaces().token)).toBe(1);
    expect(placeToGoOn('another', 100 * S)).toBe(0);
  });

  it('is kept of the lessons that were watched last, and what is damaged is begun anew', () => {
    for (let n = 0; n < 310; n++) keepPlace(`lesson ${n}`, { atSamples: n, lengthSamples: S, seenMs: n });
    expect(Object.keys(keptPlaces())).toHaveLength(300);
    expect(keptPlaces()['lesson 9']).toBeUndefined();
    localStorage.setItem('kite-trail-watched', '{');
    expect(keptPlaces()).toEqual({});
  });

  it('may be said by the address, as media fragments are written', () => {
    const said = { '#t=83': 83, '#t=1:23': 83, '#t=npt:1:00:02.5': 3602.5, '#t=10,20': 10, '#t=20s': 20 };
    for (const [hash, seconds] of Object.entries(said)) expect(momentNamed(hash)).toBe(seconds * S);
    for (const hash of ['', '#t=', '#t=-3', '#t=x', '#page=2']) expect(momentNamed(hash)).toBe(null);
  });
});
