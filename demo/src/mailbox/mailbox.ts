import { randomUUID } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { rename, writeFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import PostalMime, { type Email } from 'postal-mime';
import { SMTPServer } from 'smtp-server';

/** What stands in the way of a letter to such an address, in a mail server's words (RFC 5321, section 4.2.3; RFC 3463). */
const REFUSALS: [to: RegExp, code: number, words: string][] = [
  [/^full@/i, 552, '5.2.2 The mailbox is full'],
  [/^busy@/i, 451, '4.3.0 Try again later'],
  [/^nobody@/i, 550, '5.1.1 There is no such mailbox'],
];

/** A letter as it arrived. */
export interface Arrived {
  /** When, and under which name it is kept. */
  file: string;
  email: Email;
}

/**
 * Stands in for the school's mail server and for everybody's mailbox: it takes letters by SMTP (RFC 5321), and keeps each as a file
 * (RFC 5322). Letters to `full@…`, `busy@…` and `nobody@…` are refused as they would be.
 */
export class Mailbox {
  private constructor(
    private readonly server: SMTPServer,
    private readonly folder: string,
    /** Where letters are sent to, such as `smtp://localhost:2525`. */
    readonly address: string,
  ) {}

  /** @param port any one that is free, where it is 0 */
  static async open(folder: string, port = 0): Promise<Mailbox> {
    mkdirSync(folder, { recursive: true });
    const server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      logger: false,
      onRcptTo: ({ address }, _session, answer) => {
        const refusal = REFUSALS.find(([to]) => to.test(address));
        answer(refusal ? Object.assign(new Error(refusal[2]), { responseCode: refusal[1] }) : null);
      },
      onData: (stream, _session, answer) => {
        buffer(stream)
          .then((bytes) => keep(folder, bytes))
          .then(
            () => answer(null),
            (error: Error) => answer(error),
          );
      },
    });
    const listening = server.listen(port, 'localhost');
    await new Promise<void>((resolve, reject) => {
      listening.once('listening', resolve);
      server.once('error', reject);
    });
    const { port: at } = listening.address() as AddressInfo;
    return new Mailbox(server, folder, `smtp://localhost:${at}`);
  }

  /** All letters that have arrived, the newest first. */
  async letters(): Promise<Arrived[]> {
    const files = readdirSync(this.folder).filter((file) => file.endsWith('.eml'));
    const read = files.sort().reverse();
    return Promise.all(
      read.map(async (file) => ({ file, email: await PostalMime.parse(readFileSync(join(this.folder, file))) })),
    );
  }

  close(): Promise<void> {
    return new Promise((resolve) => this.server.close(() => resolve()));
  }
}

/** Nobody reads a letter that has half arrived. */
async function keep(folder: string, bytes: Uint8Array): Promise<void> {
  const name = `${new Date().toISOString().replaceAll(':', '-')} ${randomUUID().slice(0, 8)}`;
  await writeFile(join(folder, `${name}.part`), bytes);
  await rename(join(folder, `${name}.part`), join(folder, `${name}.eml`));
}
