import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import { existsSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import puppeteer, {
  type Browser,
  type BrowserContext,
  type CDPSession,
  type ElementHandle,
  type Page,
} from 'puppeteer-core';
import { hearComplaints } from './complaints';

const CANDIDATES = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

/** Where Chromium is: `CHROMIUM`, or where Linux distributions put it. */
function chromiumPath(): string {
  const path = process.env.CHROMIUM ?? CANDIDATES.find((one) => existsSync(one));
  if (!path) throw new Error('Chromium is needed: install it (Debian: apt-get install chromium) or set CHROMIUM.');
  return path;
}

export interface OpenOptions {
  /** A WAV that stands in for the microphone. */
  microphone?: string;
  /** Chromium's own moving test pictures stand in for a camera and for a screen. */
  camera?: boolean;
  /** Where the browser keeps its data: the same folder again is the same browser, started anew. */
  profile?: string;
  size?: { width: number; height: number };
}

/** An empty folder for a browser's data. */
export const newProfile = (): string => mkdtempSync(join(tmpdir(), 'kite-trail-browser-'));

/** Starts a headless Chromium with nothing in it. */
export async function openBrowser({ microphone, camera, profile, size }: OpenOptions = {}): Promise<Browser> {
  const browser = await puppeteer.launch({
    executablePath: chromiumPath(),
    userDataDir: profile ?? newProfile(),
    defaultViewport: { ...(size ?? { width: 1280, height: 800 }), deviceScaleFactor: 1 },
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--autoplay-policy=no-user-gesture-required',
      ...(microphone || camera ? ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'] : []),
      ...(microphone ? [`--use-file-for-fake-audio-capture=${microphone}`] : []),
    ],
  });
  hearComplaints(browser);
  return browser;
}

/** Whatever is saved in a browser goes into a folder, without asking. */
export async function savesInto(browser: Browser, folder: string): Promise<void> {
  const devtools = await browser.target().createCDPSession();
  await devtools.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
}

/** What is there is found at once; a machine that is slowed down by others is given the time it takes. */
const PATIENCE_MS = 60_000;

/** A page with a person in front of it, who finds things by role and name. */
export class Person {
  private constructor(
    readonly page: Page,
    /** By which pens and fingers are sent; only Chromium has it. */
    private readonly devtools: CDPSession | null,
  ) {}

  static async at(browser: Browser | BrowserContext, url: string): Promise<Person> {
    const person = await Person.before(await browser.newPage());
    await person.page.goto(url);
    return person;
  }

  /** In front of a page that is there already, such as one that another has opened. */
  static async before(page: Page): Promise<Person> {
    page.setDefaultTimeout(PATIENCE_MS);
    return new Person(page, await page.createCDPSession().catch(() => null));
  }

  /** Waits until something of this role and name is there, and gives it. */
  async find(role: string, name: string) {
    const found = await this.patiently(
      this.page.waitForSelector(accessible(role, name), { visible: true }),
      `${role} "${name}"`,
    );
    return found!;
  }

  /** Where a wait runs out, the test says what was to be seen instead. */
  private async patiently<Found>(wait: Promise<Found>, awaited: string): Promise<Found> {
    try {
      return await wait;
    } catch (error) {
      const seen = await this.page.evaluate(() => document.body.innerText.slice(0, 1000)).catch(String);
      throw new Error(`No ${awaited} at ${this.page.url()}, but:\n${seen}`, { cause: error });
    }
  }

  /** Presses what has this name, once it is enabled, stands still and is covered by nothing, such as a dialog that goes. */
  async press(name: string, role = 'button'): Promise<void> {
    await this.patiently(this.pressed(accessible(role, name)), `${role} "${name}" to press`);
  }

  /** What moves away between being looked at and being pressed is pressed where it is then, as a hand does. */
  private async pressed(selector: string): Promise<void> {
    const locator = this.page.locator(selector).filter(isOnTop);
    for (;;) {
      const element = await locator.waitHandle();
      await element.evaluate(notesPress);
      await locator.click();
      if (await element.evaluate(wasPressed).catch(() => true)) return;
    }
  }

  async fill(name: string, text: string): Promise<void> {
    const field = await this.find('textbox', name);
    await field.click({ count: 3 });
    await field.type(text);
  }

  async valueOf(role: string, name: string): Promise<string> {
    return (await this.find(role, name)).evaluate((field) => (field as HTMLInputElement).value);
  }

  async choose(name: string, value: string): Promise<void> {
    await (await this.find('combobox', name)).select(value);
  }

  async sees(text: string | RegExp, timeoutMs = PATIENCE_MS): Promise<void> {
    const { source, flags } = typeof text === 'string' ? { source: escaped(text), flags: '' } : text;
    const wait = this.page.waitForFunction(
      (pattern, how) => new RegExp(pattern, how).test(document.body.innerText),
      { timeout: timeoutMs },
      source,
      flags,
    );
    await this.patiently(wait, `/${source}/`);
  }

  async isGone(role: string, name: string): Promise<void> {
    await this.page.waitForSelector(accessible(role, name), { hidden: true });
  }

  async signIn(email: string, password: string): Promise<void> {
    await this.fill('E-mail address', email);
    await this.fill('Password', password);
    await this.press('Sign in');
    await this.sees('Lessons');
  }

  /** Asks the server for JSON, as the page would. @throws where it is refused */
  async request<T>(method: string, path: string, body?: unknown): Promise<T> {
    return this.page.evaluate(
      async (how, where, what, version) => {
        const headers = { 'x-kite-trail': version, 'content-type': 'application/json' };
        const answer = await fetch(`/api${where}`, { method: how, headers, body: what });
        if (!answer.ok) throw new Error(`${how} ${where}: ${answer.status} ${await answer.text()}`);
        return answer.status === 204 ? undefined : answer.json();
      },
      method,
      path,
      body === undefined ? undefined : JSON.stringify(body),
      String(PROTOCOL.version),
    ) as Promise<T>;
  }

  /** Does something in the page. */
  run<Args extends unknown[], Result>(work: (...args: Args) => Result, ...args: Args): Promise<Awaited<Result>> {
    // Puppeteer's own types also say what becomes of handles, of which none are given here.
    return this.page.evaluate(work as never, ...(args as unknown as never[])) as Promise<Awaited<Result>>;
  }

  /** Presses an item of a menu that is open. */
  async pick(name: string): Promise<void> {
    // Menus that were open before are still there, out of sight.
    await this.page.locator(`.n-dropdown-menu:not([style*="display: none"]) ::-p-text(${name})`).click();
  }

  /** Gives files to a field for files. */
  async upload(name: string, ...paths: string[]): Promise<void> {
    const field = await this.page.waitForSelector(`input[type=file][aria-label="${name}"]`);
    await (field as ElementHandle<HTMLInputElement>).uploadFile(...paths);
  }

  /** Drops a file from outside onto an element. */
  async drop(selector: string, name: string, type: string, bytes: Buffer): Promise<void> {
    await this.page.waitForSelector(selector);
    await this.page.evaluate(
      (where, fileName, fileType, base64) => {
        const content = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
        const dataTransfer = new DataTransfer();
        dataTransfer.items.add(new File([content], fileName, { type: fileType }));
        const options = { dataTransfer, bubbles: true, cancelable: true };
        document.querySelector(where)!.dispatchEvent(new DragEvent('drop', options));
      },
      selector,
      name,
      type,
      bytes.toString('base64'),
    );
  }

  /** Pastes a file from the clipboard. */
  async paste(name: string, type: string, bytes: Buffer): Promise<void> {
    await this.page.evaluate(
      (fileName, fileType, base64) => {
        const content = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
        const clipboardData = new DataTransfer();
        clipboardData.items.add(new File([content], fileName, { type: fileType }));
        window.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
      },
      name,
      type,
      bytes.toString('base64'),
    );
  }

  /** Drags with the mouse from one place of the page to another, as parts of its width and height. */
  async drag(from: [number, number], to: [number, number]): Promise<void> {
    await this.drawLine([from, to]);
  }

  /** Presses the mouse and moves it from place to place of the page. */
  async drawLine(places: readonly [number, number][]): Promise<void> {
    const { x, y, width, height } = await this.board();
    const { mouse } = this.page;
    const [[u, v], ...rest] = places;
    await mouse.move(x + u * width, y + v * height);
    await mouse.down();
    for (const [toU, toV] of rest) await mouse.move(x + toU * width, y + toV * height, { steps: 6 });
    await mouse.up();
  }

  /** Where the page to write on lies on the screen. */
  async board(): Promise<{ x: number; y: number; width: number; height: number }> {
    return (await (await this.find('image', 'Page to write on')).boundingBox())!;
  }

  /** One pen event of the given pressure, at a part (0 to 1) of the page's width and height. */
  async pen(type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', u: number, v: number, force: number): Promise<void> {
    const box = await this.board();
    await this.penAt(type, box.x + u * box.width, box.y + v * box.height, force);
  }

  async penAt(
    type: 'mousePressed' | 'mouseMoved' | 'mouseReleased',
    x: number,
    y: number,
    force: number,
    button: 'left' | 'right' = 'left',
  ) {
    await this.devtools!.send('Input.dispatchMouseEvent', {
      type,
      x,
      y,
      force,
      pointerType: 'pen',
      button,
      buttons: type === 'mouseReleased' ? 0 : button === 'left' ? 1 : 2,
      clickCount: 1,
    });
  }

  /** Fingers that come down, go on and lift: all that are down each time. */
  async touch(
    type: 'touchStart' | 'touchMove' | 'touchEnd',
    touchPoints: { x: number; y: number; id?: number; radiusX?: number; radiusY?: number }[],
  ): Promise<void> {
    await this.devtools!.send('Input.dispatchTouchEvent', { type, touchPoints });
  }

  /** Writes a straight stroke with a pen that presses harder as it goes. */
  async stroke(from: [number, number], to: [number, number], steps = 12): Promise<void> {
    const box = await this.board();
    const at = (t: number) =>
      [
        box.x + (from[0] + (to[0] - from[0]) * t) * box.width,
        box.y + (from[1] + (to[1] - from[1]) * t) * box.height,
      ] as const;
    await this.penAt('mousePressed', ...at(0), 0.2);
    for (let i = 1; i <= steps; i++) await this.penAt('mouseMoved', ...at(i / steps), 0.2 + (0.6 * i) / steps);
    await this.penAt('mouseReleased', ...at(1), 0);
  }
}

/**
 * Whether the middle of an element, scrolled to where it has one, is what a pointer there would meet. One that has been replaced
 * meanwhile, such as by another step's button of that name, is not waited for: whoever presses it then finds it gone, and looks anew.
 */
function isOnTop(element: Element): boolean {
  if (!element.isConnected) return true;
  element.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  const { left, top, width, height } = element.getBoundingClientRect();
  const met = document.elementFromPoint(left + width / 2, top + height / 2);
  return met === null || element.contains(met) || met.contains(element);
}

/** For {@link wasPressed}. */
function notesPress(element: Element): void {
  element.removeAttribute('data-pressed');
  element.addEventListener('click', () => element.setAttribute('data-pressed', ''), { capture: true, once: true });
}

/** What has gone was pressed, too: that is why. */
const wasPressed = (element: Element): boolean => !element.isConnected || element.hasAttribute('data-pressed');

const accessible = (role: string, name: string) => `::-p-aria([name="${name}"][role="${role}"])`;

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
