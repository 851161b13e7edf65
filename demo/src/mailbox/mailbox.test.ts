import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { smtpPost, type Letter } from '@kite-trail/server/mail/post';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Mailbox } from './mailbox';
import { showMailbox } from './mailbox-page';

let mailbox: Mailbox;
beforeEach(async () => {
  mailbox = await Mailbox.open(mkdtempSync(join(tmpdir(), 'kite-trail-mailbox-')));
});
afterEach(() => mailbox.close());

const letter = (to: string, more: Partial<Letter> = {}): Letter => ({
  mail: 'm',
  messageId: '<letter-of-tides@school.example>',
  to,
  fromName: 'Marit Skagen',
  replyTo: 'marit@sandhaven.example',
  subject: 'Höhe der Gezeit — مدّ',
  text: 'Watch it here:\n\nhttp://localhost/w/abc\n.\n.. and a <b>dot</b>\n',
  ...more,
});
const send = (to: string, more: Partial<Letter> = {}) =>
  smtpPost(mailbox.address, 'school@example.org').send(letter(to, more));

describe('a letter', () => {
  it('arrives as it was written, in any script, with who wrote it and whom to answer (RFC 5322, read by postal-mime)', async () => {
    await send('anna@harbour.example');
    const [{ email }] = await mailbox.letters();
    expect(email).toMatchObject({
      subject: letter('').subject,
      messageId: '<letter-of-tides@school.example>',
      from: { name: 'Marit Skagen', address: 'school@example.org' },
      to: [{ address: 'anna@harbour.example' }],
      replyTo: [{ address: 'marit@sandhaven.example' }],
    });
    expect(email.text!.trim()).toBe(letter('').text.trim());
  });

  it('has no more heads than it was given, whatever is in a title', async () => {
    await send('anna@harbour.example', { subject: 'Tides\r\nBcc: all@harbour.example', fromName: 'M\r\nX-Mine: yes' });
    const [{ email }] = await mailbox.letters();
    expect(email.bcc).toBeUndefined();
    expect(email.headers.map(({ key }) => key)).not.toContain('x-mine');
  });

  it.each([
    ['full@harbour.example', 'letter', 'The mailbox is full.'],
    ['nobody@harbour.example', 'letter', 'There is no such mailbox.'],
    ['busy@harbour.example', 'later', 'The mail server says: 451 4.3.0 Try again later'],
  ])('to %s is refused, with the reason', async (to, concerns, message) => {
    await expect(send(to)).rejects.toMatchObject({ concerns, message });
    expect(await mailbox.letters()).toEqual([]);
  });

  it('that cannot be written is refused alone, and holds up no other', async () => {
    await expect(send('')).rejects.toMatchObject({ concerns: 'letter' });
    await send('anna@harbour.example');
    expect(await mailbox.letters()).toHaveLength(1);
  });

  it('waits with all others where there is no mail server', async () => {
    const { address } = mailbox;
    await mailbox.close();
    await expect(smtpPost(address, 'school@example.org').send(letter('anna@harbour.example'))).rejects.toMatchObject({
      concerns: 'all',
      message: 'The school’s mail server cannot be reached.',
    });
  });
});

describe('the mailbox', () => {
  it('shows letters with their links, and nothing of them as a page of its own', async () => {
    await send('anna@harbour.example');
    const { address, server } = await showMailbox(mailbox, 0);
    const page = await (await fetch(address)).text();
    server.close();
    expect(page).toContain('<a href="http://localhost/w/abc">');
    expect(page).toContain('&lt;b&gt;dot');
  });
});
