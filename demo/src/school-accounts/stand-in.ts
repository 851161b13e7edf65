import { generateKeyPairSync } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import Provider from 'oidc-provider';
import { Memory } from './memory';

/** Somebody who has an account at the school. */
export interface Account {
  subject: string;
  name: string;
  email: string;
  isVerified: boolean;
}

/** In seconds. */
const TEN_MINUTES = 600;
const CLIENT = { id: 'kite-trail', secret: 'only-on-this-machine' };

/**
 * Stands in for the accounts of a school, by OpenID Connect (Core 1.0): whoever comes to sign in says who they are by a touch.
 */
export class StandInAccounts {
  private constructor(
    private readonly server: Server,
    readonly issuer: string,
  ) {}

  readonly clientId = CLIENT.id;
  readonly clientSecret = CLIENT.secret;

  /**
   * @param school where those who have signed in come back to, such as `http://localhost:4400`
   * @param port where it is, or any that is free where somebody else is there
   */
  static async open(people: readonly Account[], school: string, port = 0): Promise<StandInAccounts> {
    let handle = (_request: IncomingMessage, response: ServerResponse): void => void response.end();
    const server = createServer((request, response) => handle(request, response));
    const listen = (at: number) =>
      new Promise<void>((resolve, reject) => {
        server.once('error', reject);
        server.listen(at, 'localhost', () => resolve());
      });
    await listen(port).catch(() => listen(0));
    const issuer = `http://localhost:${(server.address() as AddressInfo).port}`;
    const provider = providerOf(people, issuer, school);
    const answer = provider.callback();
    handle = (request, response) => {
      if (request.url === '/favicon.ico') response.writeHead(204).end();
      else if (request.url?.startsWith('/people/')) void whoAreYou(provider, people, request, response);
      else void answer(request, response);
    };
    return new StandInAccounts(server, issuer);
  }

  close(): Promise<void> {
    this.server.closeAllConnections();
    return new Promise((resolve) => this.server.close(() => resolve()));
  }
}

function providerOf(people: readonly Account[], issuer: string, school: string): Provider {
  const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const provider: Provider = new Provider(issuer, {
    clients: [
      { client_id: CLIENT.id, client_secret: CLIENT.secret, redirect_uris: [`${school}/api/school-sign-in/back`] },
    ],
    jwks: { keys: [{ ...privateKey.export({ format: 'jwk' }), use: 'sig', alg: 'RS256' } as never] },
    adapter: Memory,
    ttl: {
      AccessToken: TEN_MINUTES,
      AuthorizationCode: 60,
      Grant: TEN_MINUTES,
      IdToken: TEN_MINUTES,
      Interaction: TEN_MINUTES,
      Session: TEN_MINUTES,
    },
    cookies: { keys: ['only-on-this-machine'] },
    claims: { openid: ['sub'], email: ['email', 'email_verified'], profile: ['name'] },
    features: { devInteractions: { enabled: false } },
    interactions: { url: (_context, { uid }) => `/people/${uid}` },
    findAccount: (_context, subject) => {
      const found = people.find((one) => one.subject === subject);
      if (!found) return undefined;
      const { name, email, isVerified } = found;
      return { accountId: subject, claims: () => ({ sub: subject, name, email, email_verified: isVerified }) };
    },
    // Whoever says who they are wants to be known: nobody is asked a second time.
    loadExistingGrant: async ({ oidc }) => {
      const grant = new provider.Grant({ clientId: oidc.client!.clientId, accountId: oidc.session!.accountId! });
      grant.addOIDCScope('openid profile email');
      await grant.save();
      return grant;
    },
  });
  return provider;
}

const PAGE = (rest: string) => `<!doctype html><html lang="en"><title>School accounts</title>
<meta name="viewport" content="width=device-width" />
<style>
  body { max-width: 26rem; padding: 2rem; margin: 0 auto; font: 1.1rem/1.5 system-ui, sans-serif; color: #1f2a44; background: #f4f1e9; }
  button { display: block; width: 100%; min-height: 52px; margin: 0.6rem 0; font: inherit; color: inherit;
    cursor: pointer; background: #fffdf8; border: 1px solid #c9c3b2; border-radius: 12px; }
</style>
<h1>School accounts</h1><p>They stand in for those of a school. Who are you?</p>${rest}</html>`;

async function whoAreYou(
  provider: Provider,
  people: readonly Account[],
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const [, , uid, chosen] = request.url!.split('/');
  if (request.method === 'POST') {
    const one = people[Number(chosen)];
    const result = one
      ? { login: { accountId: one.subject } }
      : { error: 'access_denied', error_description: 'Nobody signed in.' };
    return provider.interactionFinished(request, response, result, { mergeWithLastSubmission: false });
  }
  const buttons = [...people.map(({ name }, n) => [n, name]), ['none', 'Nobody: go back']];
  response.setHeader('Content-Type', 'text/html; charset=utf-8');
  response.end(
    PAGE(
      buttons
        .map(([n, name]) => `<form method="post" action="/people/${uid}/${n}"><button>${name}</button></form>`)
        .join(''),
    ),
  );
}
