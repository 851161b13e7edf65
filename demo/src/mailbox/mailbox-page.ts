import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Address } from 'postal-mime';
import type { Arrived, Mailbox } from './mailbox';

const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escaped = (text: string): string => text.replace(/[&<>"]/g, (letter) => ENTITIES[letter]);
const linked = (text: string): string =>
  escaped(text).replace(/https?:\/\/[^\s]+/g, (url) => `<a href="${url}">${url}</a>`);
const named = (all: readonly Address[] = []): string => all.map(({ address, name }) => address || name).join(', ');

const STYLE = `
  body { max-width: 44rem; padding: 1.5rem; margin: 0 auto; font: 1.05rem/1.5 system-ui, sans-serif; color: #1f2a44; background: #f4f1e9; }
  article { padding: 1rem 1.2rem; margin: 1rem 0; background: #fffdf8; border-radius: 14px; box-shadow: 0 1px 4px #1f2a4422; }
  h1 { font-size: 1.4rem; }
  h2 { margin: 0; font-size: 1.15rem; }
  .said { margin: 0; color: #5b6377; }
  .text { margin-bottom: 0; white-space: pre-line; }
  a { color: #1a6f6a; }
`;

const letterText = ({ email }: Arrived): string => `<article>
<h2>${escaped(email.subject ?? '')}</h2>
<p class="said">To ${escaped(named(email.to))}, from ${escaped(email.from?.name ?? '')}</p>
<p class="text">${linked(email.text ?? '')}</p>
</article>`;

/** A page on which everybody's letters can be read. @returns its address */
export async function showMailbox(mailbox: Mailbox, port: number): Promise<{ address: string; server: Server }> {
  const server = createServer((_request, response) => {
    void mailbox.letters().then((letters) => {
      response.setHeader('Content-Type', 'text/html; charset=utf-8');
      response.end(`<!doctype html><html lang="en"><title>Mailbox</title>
<meta name="viewport" content="width=device-width" /><style>${STYLE}</style>
<h1>Everybody’s mailbox</h1>
<p class="said">It stands in for the school’s mail server. Letters to full@…, busy@… and nobody@… are refused.</p>
${letters.map(letterText).join('') || '<p>No letter has arrived yet.</p>'}</html>`);
    });
  });
  const listen = (at: number) =>
    new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(at, 'localhost', () => resolve());
    });
  // Where somebody else is at that place already, it finds another.
  await listen(port).catch(() => listen(0));
  return { address: `http://localhost:${(server.address() as AddressInfo).port}`, server };
}
