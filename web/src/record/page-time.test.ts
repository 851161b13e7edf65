import type { PageId } from '@kite-trail/core/lesson/ids';
import { expect, it } from 'vitest';
import { PageTime } from './page-time';

const [first, second] = ['page-one', 'page-two'] as PageId[];

it('counts the time on a page, also when it is come back to', () => {
  const time = new PageTime(first);
  expect(time.shownFor(100)).toBe(100);
  time.turned(second, 150);
  expect(time.shownFor(150)).toBe(0);
  expect(time.shownFor(190)).toBe(40);
  time.turned(first, 200);
  expect(time.shownFor(200)).toBe(150);
  expect(time.shownFor(260)).toBe(210);
  // To turn to the page that is shown changes nothing.
  time.turned(first, 300);
  expect(time.shownFor(310)).toBe(260);
});
