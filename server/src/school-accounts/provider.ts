import * as oidc from 'openid-client';

/** Somebody, as the school's accounts know them. */
export interface SchoolPerson {
  /** The two by which they are known again, whatever else of them changes (OpenID Connect Core 1.0, section 5.7). */
  issuer: string;
  subject: string;
  name: string;
  /** `null` where it is not known, or nobody has verified that it is theirs. */
  email: string | null;
}

/** What has to be kept from the beginning of a sign-in to its end, and is nobody else's to know. */
export interface Begun {
  verifier: string;
  state: string;
  nonce: string;
}

/** Where the school keeps its people's accounts. */
export interface SchoolAccounts {
  /** What teachers call it. */
  readonly name: string;
  /** @param back where somebody comes back to @returns where they sign in @throws AccountsUnreachable */
  begin(back: string): Promise<{ address: string; begun: Begun }>;
  /** @param came with what they came back @throws NotSignedIn, AccountsUnreachable */
  finish(came: URL, begun: Begun): Promise<SchoolPerson>;
}

/** The school's accounts cannot be asked just now. */
export class AccountsUnreachable extends Error {
  override readonly name = 'AccountsUnreachable';
}

/** Somebody came back without having signed in, or with what is not theirs. */
export class NotSignedIn extends Error {
  override readonly name = 'NotSignedIn';
}

export interface ProviderOptions {
  name: string;
  /** Such as `https://accounts.school.example`. */
  issuer: string;
  clientId: string;
  clientSecret: string;
}

const SCOPE = 'openid profile email';

/** Accounts that speak OpenID Connect: the code flow with PKCE (RFC 7636), state and nonce. */
export function openIdAccounts({ name, issuer, clientId, clientSecret }: ProviderOptions): SchoolAccounts {
  let known: Promise<oidc.Configuration> | null = null;
  const address = new URL(issuer);
  // A stand-in on this machine has no certificate.
  const isHere = address.protocol === 'http:' && address.hostname === 'localhost';
  const execute = isHere ? [oidc.allowInsecureRequests] : [];

  /** What was not to be had is asked for again at the next sign-in. */
  function configuration(): Promise<oidc.Configuration> {
    known ??= oidc.discovery(address, clientId, clientSecret, undefined, { execute }).catch((error: unknown) => {
      known = null;
      throw new AccountsUnreachable(`${name} cannot be reached.`, { cause: error });
    });
    return known;
  }

  return {
    name,

    async begin(back) {
      const begun = {
        verifier: oidc.randomPKCECodeVerifier(),
        state: oidc.randomState(),
        nonce: oidc.randomNonce(),
      };
      const asked = oidc.buildAuthorizationUrl(await configuration(), {
        redirect_uri: back,
        scope: SCOPE,
        code_challenge: await oidc.calculatePKCECodeChallenge(begun.verifier),
        code_challenge_method: 'S256',
        state: begun.state,
        nonce: begun.nonce,
      });
      return { address: asked.href, begun };
    },

    async finish(came, { verifier, state, nonce }) {
      const at = await configuration();
      try {
        const tokens = await oidc.authorizationCodeGrant(at, came, {
          pkceCodeVerifier: verifier,
          expectedState: state,
          expectedNonce: nonce,
          idTokenExpected: true,
        });
        const { iss, sub } = tokens.claims()!;
        const told = await oidc.fetchUserInfo(at, tokens.access_token, sub);
        const email = told.email_verified === true && told.email ? told.email.toLowerCase() : null;
        return { issuer: iss, subject: sub, name: told.name ?? told.preferred_username ?? '', email };
      } catch (error) {
        throw new NotSignedIn('The sign-in was not completed.', { cause: error });
      }
    },
  };
}
