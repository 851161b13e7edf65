import { describe, expect, it } from 'vitest';
import type { PageId, PieceId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import { wideSquaredPage } from '../lesson/page';
import { NEW, type Piece } from '../lesson/piece';
import { sceneOf } from '../lesson/scene';
import { typedTexts } from './typed';

const [one, two, three] = ['page-one', 'page-two', 'page-three'] as PageId[];
const typed = (id: string, text: string) =>
  ({ ...NEW, id: id as PieceId, z: 1, kind: 'text', content: { text } }) as Piece;
const place = (page: PageId, atSamples: number, piece: Piece): Mark => ({
  kind: 'place',
  page,
  pieces: [piece],
  atSamples,
});

describe('what was typed in a lesson', () => {
  const base = sceneOf([
    { page: wideSquaredPage(one), pieces: [typed('a', 'first'), typed('blank', ' \n')] },
    { page: wideSquaredPage(two), pieces: [typed('b', 'second')] },
    { page: wideSquaredPage(three), pieces: [typed('c', 'never shown')] },
  ]);

  it('is seen when its page is, or when it came, whichever is later', () => {
    const marks: Mark[] = [
      place(one, 10, typed('d', 'came')),
      place(two, 20, typed('e', 'put ahead')),
      { kind: 'turn', page: two, atSamples: 30 },
      { kind: 'alter', page: two, pieces: [typed('b', 'second'), typed('e', 'put otherwise')], atSamples: 40 },
      { kind: 'turn', page: one, atSamples: 50 },
      place(one, 60, typed('a', 'first')),
    ];
    const since = [place(one, 0, typed('f', 'since')), place(one, 0, typed('d', 'came'))];
    expect(typedTexts(base, marks, since)).toEqual([
      { text: 'first', page: one, atSamples: 0 },
      { text: 'second', page: two, atSamples: 30 },
      { text: 'never shown', page: three, atSamples: null },
      { text: 'came', page: one, atSamples: 10 },
      { text: 'put ahead', page: two, atSamples: 30 },
      { text: 'put otherwise', page: two, atSamples: 40 },
      { text: 'since', page: one, atSamples: null },
    ]);
  });
});
