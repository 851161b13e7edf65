import type { Mail } from '@kite-trail/core/contract/mail';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useLesson } from '../../lesson/lesson';
import { api } from '../../server/api';
import { madeLesson } from '../../testing/made-lesson';
import { addressesIn, stateInWords } from './mail-words';
import { useMails } from './mails';

const letter = (more: Partial<Mail> = {}): Mail => ({
  id: 'letter-about-the-tide',
  link: 'a'.repeat(32),
  to: 'anna@harbour.example',
  state: 'waiting',
  madeAt: '2026-11-28T08:00:00.000Z',
  doneAt: null,
  nextTryAt: '2026-11-28T08:10:00.000Z',
  why: null,
  ...more,
});

describe('addresses', () => {
  it.each([
    [
      'anna@harbour.example, ben@harbour.example;cleo@x.example',
      ['anna@harbour.example', 'ben@harbour.example', 'cleo@x.example'],
    ],
    [
      '"Reed, Anna" <anna@harbour.example>,\nBen Hull <ben@harbour.example>',
      ['anna@harbour.example', 'ben@harbour.example'],
    ],
    ['anna@harbour.example\n\nben@harbour.example\n', ['anna@harbour.example', 'ben@harbour.example']],
    ['anna@harbour.example, ben', ['anna@harbour.example', 'ben']],
    ['anna@harbour.example ben@harbour.example', ['anna@harbour.example ben@harbour.example']],
    ['Anna Reed', ['Anna Reed']],
    ['  ,; ', []],
  ])('are found in %j, and nothing is left out', (text, found) => expect(addressesIn(text)).toEqual(found));
});

describe('a letter', () => {
  it('is told as on its way, waiting with the reason, sent, or not sent', () => {
    expect(stateInWords(letter())).toBe('On its way');
    expect(stateInWords(letter({ why: 'The mail server cannot be reached.' }))).toMatch(
      /^The mail server cannot be reached\. Tried again at \d/,
    );
    const done = { doneAt: '2026-11-28T08:00:00.000Z', nextTryAt: null };
    expect(stateInWords(letter({ state: 'sent', ...done }))).toMatch(/^Sent .*2026/);
    expect(stateInWords(letter({ state: 'refused', why: 'The mailbox is full.', ...done }))).toBe(
      'Not sent: The mailbox is full.',
    );
  });
});

describe('the letters of a lesson', () => {
  beforeEach(() => useLesson().accept(madeLesson(['page-one-of-us' as PageId], {})));

  it('are those the school told of last, and stay where it cannot be asked', async () => {
    const asked = vi.spyOn(api, 'mails').mockResolvedValue({ isSetUp: true, mails: [letter()] });
    const mails = useMails();
    await mails.load();
    expect([mails.isSetUp, mails.waiting.length]).toEqual([true, 1]);
    asked.mockRejectedValue(new Error('no network'));
    await mails.load();
    expect(mails.letters).toHaveLength(1);
  });

  it('that the school did not take are not told as sent', async () => {
    vi.spyOn(api, 'sendMails').mockRejectedValue(new Error('too many'));
    const mails = useMails();
    mails.to = 'anna@harbour.example';
    await expect(mails.send('t')).rejects.toThrow('too many');
    expect([mails.letters, mails.to]).toEqual([[], 'anna@harbour.example']);
  });

  it('are written for addresses alone: what is none is told by name, and nothing is sent', async () => {
    const sent = vi
      .spyOn(api, 'sendMails')
      .mockReset()
      .mockResolvedValue({ isSetUp: true, mails: [letter()] });
    const mails = useMails();
    mails.to = 'Anna Reed <anna@harbour.example>, ben';
    await expect(mails.send('t')).rejects.toThrow('“ben”: An address is written like anna@school.example');
    expect(sent).not.toHaveBeenCalled();
    mails.to = 'Anna Reed <anna@harbour.example>, ben@harbour.example';
    mails.note = ' For Monday ';
    await mails.send('t');
    const asked = { to: ['anna@harbour.example', 'ben@harbour.example'], note: 'For Monday' };
    expect(sent).toHaveBeenCalledWith('lesson-of-knots', 't', asked);
    expect([mails.to, mails.letters.length]).toEqual(['', 1]);
  });
});
