import { ask } from './ask';

/** A pass is kept until the window is closed: the next person at this device is asked anew. */
const keyOf = (token: string) => `kite-trail-pass-${token}`;

/** What is added to a link's addresses once its passcode is known. */
export function passFor(token: string): string {
  const pass = sessionStorage.getItem(keyOf(token));
  return pass === null ? '' : `?pass=${pass}`;
}

export const forgetPass = (token: string): void => sessionStorage.removeItem(keyOf(token));

/** Tries a passcode. @throws Error with a message for the student where it is another */
export async function tryPasscode(token: string, passcode: string): Promise<void> {
  const answer = await ask(`/api/watch/${token}/passcode`, { method: 'POST', body: { passcode } });
  sessionStorage.setItem(keyOf(token), ((await answer.json()) as { pass: string }).pass);
}
