import type { Request, Response } from 'express';
import { z } from 'zod';

const KEPT_FOR_MS = 10 * 60_000;

/** A sign-in that somebody has begun in a browser, and with which ticket they join, where they do. */
const begunSignIn = z.object({
  begun: z.object({ verifier: z.string(), state: z.string(), nonce: z.string() }),
  ticket: z.string().nullable(),
});
export type BegunSignIn = z.output<typeof begunSignIn>;

/** Over https its name lets browsers take it from this address alone (RFC 6265bis, 4.1.3.2): nobody begins for somebody else. */
const nameFor = ({ secure }: Request): string => (secure ? '__Host-kite-trail-sign-in' : 'kite-trail-sign-in');
const optionsFor = ({ secure }: Request) => ({ httpOnly: true, sameSite: 'lax', secure, path: '/' }) as const;

/** Keeps a sign-in in the browser that has begun it, and nowhere else. */
export function keepBegun(request: Request, response: Response, one: BegunSignIn): void {
  const value = Buffer.from(JSON.stringify(one)).toString('base64url');
  response.cookie(nameFor(request), value, { ...optionsFor(request), maxAge: KEPT_FOR_MS });
}

/** The sign-in a browser has begun, which it does not keep any longer; `null` where it has begun none. */
export function takeBegun(request: Request, response: Response): BegunSignIn | null {
  const name = nameFor(request);
  const cookies = (request.get('cookie') ?? '').split(';').map((one) => one.trim().split('='));
  response.clearCookie(name, optionsFor(request));
  const value = cookies.find(([of]) => of === name)?.[1];
  if (value === undefined) return null;
  try {
    return begunSignIn.parse(JSON.parse(Buffer.from(value, 'base64url').toString()));
  } catch {
    return null;
  }
}
