import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { expect, it } from 'vitest';
import { transcriptOf } from './transcript';

const said = (text: string, from: number, to: number) => ({ text, startMs: from * 1000, endMs: to * 1000 });
const captions = [said('Low water first.', 0, 2), said('Then the range.', 5, 9), said('And a twelfth.', 11, 13)];
const typed = [{ text: 'Range = 3.6 m', atSamples: secondsToSamples(6) }];
const chapters = [
  { title: 'Heights', startSamples: 0 },
  { title: 'Twelfths', startSamples: secondsToSamples(8) },
  { title: 'At the end', startSamples: secondsToSamples(20) },
];
const told = (sought = '') =>
  transcriptOf(captions, typed, chapters, sought).map(({ title, lines }) => [
    title,
    ...lines.map((line) => (line.kind === 'said' ? line.said.text : `[${line.typed.text}]`)),
  ]);

it('has what is said and what is typed in order, chapter by chapter', () => {
  expect(told()).toEqual([
    ['Heights', 'Low water first.', 'Then the range.', '[Range = 3.6 m]'],
    ['Twelfths', 'And a twelfth.'],
    ['At the end'],
  ]);
});

it('is searched in both', () => {
  expect(told(' RANGE ')).toEqual([['Heights', 'Then the range.', '[Range = 3.6 m]']]);
  expect(told('anchor')).toEqual([]);
});

it('begins without a title where the first chapter comes later', () => {
  expect(transcriptOf(captions, [], chapters.slice(1), '')[0]).toMatchObject({ title: '', startSamples: -1 });
});
