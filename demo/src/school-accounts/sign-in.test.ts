import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import { openIdAccounts } from '@kite-trail/server/school-accounts/provider';
import { messageOf, startTestServer, type TestServer } from '@kite-trail/server/testing';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { StandInAccounts, type Account } from './stand-in';

const MARIT: Account = { subject: 'p-1', name: 'Marit Skagen', email: 'Marit@sandhaven.example', isVerified: true };
const STRANGER: Account = { subject: 'p-2', name: 'Ida Holm', email: 'ida@sandhaven.example', isVerified: true };
const UNVERIFIED: Account = { subject: 'p-3', name: 'Not Marit', email: 'marit@sandhaven.example', isVerified: false };
const SUCCESSOR: Account = {
  subject: 'p-4',
  name: 'Another Marit',
  email: 'marit@sandhaven.example',
  isVerified: true,
};
const LATE: Account = { subject: 'p-5', name: 'Late Comer', email: 'late@sandhaven.example', isVerified: true };
const PEOPLE = [MARIT, STRANGER, UNVERIFIED, SUCCESSOR, LATE];
const NOBODY = 'none';

let server: TestServer;
let accounts: StandInAccounts;
let school: string;

beforeAll(async () => {
  // The school's address is known once it listens; where its accounts are, before.
  const later = { issuer: '', clientId: '', clientSecret: '' };
  let known: ReturnType<typeof openIdAccounts> | null = null;
  const opened = () => (known ??= openIdAccounts({ name: 'Sandhaven', ...later }));
  server = await startTestServer({
    accounts: {
      name: 'Sandhaven',
      begin: (back) => opened().begin(back),
      finish: (...came) => opened().finish(...came),
    },
  });
  school = `http://localhost:${server.port}`;
  accounts = await StandInAccounts.open(PEOPLE, school);
  Object.assign(later, { issuer: accounts.issuer, clientId: accounts.clientId, clientSecret: accounts.clientSecret });
  await server.signedIn('marit@sandhaven.example');
});
afterAll(async () => {
  await accounts.close();
  await server.close();
});
beforeEach(() => server.db('identities').delete());

/** A browser: it keeps cookies by address, and follows where it is sent until it is at a page. */
class Browser {
  private readonly cookies = new Map<string, Map<string, string>>();

  async go(address: string, method = 'GET', said?: object): Promise<{ at: URL; response: Response }> {
    const at = new URL(address);
    const own = this.cookies.get(at.host) ?? new Map<string, string>();
    this.cookies.set(at.host, own);
    const cookie = [...own].map(([name, value]) => `${name}=${value}`).join('; ');
    const response = await fetch(at, {
      method,
      redirect: 'manual',
      headers: {
        ...(cookie ? { cookie } : {}),
        ...(said ? { 'content-type': 'application/json', [PROTOCOL.header]: String(PROTOCOL.version) } : {}),
      },
      body: said && JSON.stringify(said),
    });
    for (const set of response.headers.getSetCookie()) {
      const [name, value] = set.split(';')[0].split('=');
      if (value === '' || /expires=Thu, 01 Jan 1970/i.test(set)) own.delete(name);
      else own.set(name, value);
    }
    const to = response.headers.get('location');
    // The school's own pages are not built here.
    return to && !/^\/(sign-in|$)/.test(to)
      ? this.go(new URL(to, at).href)
      : { at: to ? new URL(to, at) : at, response };
  }

  /** Begins to sign in, and is at the page on which one says who one is. */
  async begin(ticket: string | null = null) {
    const { response } = await this.go(`${school}/api/school-sign-in`, 'POST', { ticket });
    return this.go(((await response.json()) as { address: string }).address);
  }

  /** Signs in as one of the people, or as nobody. @returns where that leads */
  async signIn(as: Account | null, ticket: string | null = null): Promise<string> {
    const { at } = await this.begin(ticket);
    const n = as ? PEOPLE.indexOf(as) : NOBODY;
    const { at: end } = await this.go(`${at.href}/${n}`, 'POST');
    return end.pathname + end.search;
  }

  async session(): Promise<{ teacher: { email: string; name: string } | null; schoolAccounts: string | null }> {
    const { response } = await this.go(`${school}/api/session`);
    return (await response.json()) as never;
  }
}

describe('signing in by the school’s accounts', () => {
  it('lets in a teacher of that verified address, and knows them again by what never changes', async () => {
    const browser = new Browser();
    expect((await browser.session()).schoolAccounts).toBe('Sandhaven');
    expect(await browser.signIn(MARIT)).toBe('/');
    expect((await browser.session()).teacher).toMatchObject({ email: 'marit@sandhaven.example' });
    expect(server.noted.at(-1)).toMatchObject({ event: 'signed in' });
    // Her address is another one here by now; she is the same.
    await server.db('teachers').where({ email: 'marit@sandhaven.example' }).update({ email: 'marit@other.example' });
    const again = new Browser();
    expect(await again.signIn(MARIT)).toBe('/');
    expect((await again.session()).teacher).toMatchObject({ email: 'marit@other.example' });
    await server.db('teachers').where({ email: 'marit@other.example' }).update({ email: 'marit@sandhaven.example' });
  });

  it.each([
    ['somebody who teaches nowhere here', STRANGER, 'nobody'],
    ['somebody whose address nobody has verified', UNVERIFIED, 'nobody'],
    ['somebody who turns back', null, 'refused'],
  ])('does not let in %s, and says why', async (_who, as, code) => {
    const browser = new Browser();
    expect(await browser.signIn(as)).toBe(`/sign-in?refused=${code}`);
    expect((await browser.session()).teacher).toBeNull();
  });

  it('opens nothing to whoever has been given an address that was a teacher’s', async () => {
    await new Browser().signIn(MARIT);
    const browser = new Browser();
    expect(await browser.signIn(SUCCESSOR)).toBe('/sign-in?refused=somebody-else');
    expect((await browser.session()).teacher).toBeNull();
  });

  it('lets in nobody who is shut out', async () => {
    await new Browser().signIn(MARIT);
    const marit = server.db('teachers').where({ email: 'marit@sandhaven.example' });
    await marit.clone().update({ shut_out_at: new Date().toISOString() });
    expect(await new Browser().signIn(MARIT)).toBe('/sign-in?refused=shut-out');
    await marit.clone().update({ shut_out_at: null });
  });

  it('lets somebody join who has a ticket, once', async () => {
    const keeper = await server.signedIn('keeper@sandhaven.example', { isKeeper: true });
    const { code } = (await (await keeper('POST', '/tickets', { teacher: null })).json()) as { code: string };
    expect(await new Browser().signIn(STRANGER, 'no-such-ticket')).toMatch(/refused=/);
    const browser = new Browser();
    expect(await browser.signIn(STRANGER, code)).toBe('/');
    expect((await browser.session()).teacher).toMatchObject({ name: 'Ida Holm', email: 'ida@sandhaven.example' });
    expect(await new Browser().signIn(LATE, code)).toBe('/sign-in?refused=no-such-ticket');
  });

  it('takes what a browser brings only once, and only from the one that began', async () => {
    const victim = new Browser();
    const { at } = await victim.begin();
    const attacker = new Browser();
    // Whoever is sent to somebody else's way back, such as by a link, has not begun.
    expect((await attacker.go(`${school}/api/school-sign-in/back?code=x&state=y`)).at.search).toBe('?refused=too-late');
    const { at: end } = await victim.go(`${at.href}/0`, 'POST');
    expect(end.pathname).toBe('/');
    const again = await victim.go(`${school}/api/school-sign-in/back?code=x&state=y`);
    expect(again.at.search).toBe('?refused=too-late');
  });

  it('refuses a state that is not its own', async () => {
    const browser = new Browser();
    await browser.begin();
    const { at } = await browser.go(`${school}/api/school-sign-in/back?code=made-up&state=made-up`);
    expect(at.search).toBe('?refused=refused');
    expect((await browser.session()).teacher).toBeNull();
  });
});

describe('where the school’s accounts cannot be reached', () => {
  it('that is told, and passwords go on', async () => {
    const gone = await startTestServer({
      accounts: openIdAccounts({ name: 'Sandhaven', issuer: 'http://localhost:1', clientId: 'x', clientSecret: 'y' }),
    });
    const answer = await gone.caller()('POST', '/school-sign-in', { ticket: null });
    expect(answer.status).toBe(503);
    expect(await messageOf(answer)).toMatch(/^Sandhaven cannot be reached\. Sign in with your password/);
    const teacher = await gone.signedIn('marit@sandhaven.example');
    expect((await teacher('GET', '/lessons')).status).toBe(200);
    await gone.close();
  });
});
