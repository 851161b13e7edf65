import { seeded } from '@kite-trail/core/random/seeded';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { createCanvas } from '@napi-rs/canvas';
import type { Browser } from 'puppeteer-core';
import { Person } from './browser';
import { colorAt } from './lessons';
import type { School } from './school';

/** Strokes lie on a grid, so that each is known by where it begins. */
const COLUMNS = 40;
const [LEFT, TOP, ACROSS, DOWN] = [0.08, 0.08, 0.021, 0.03];
const ACTION_TIMEOUT_MS = 4000;
const SEEN_WITHIN_MS = 2000;
/** No paper, line or picture is as dark as ink. */
const DARK = 90;

const DONE = ['stroke', 'picture', 'cut', 'take'] as const;
const FAULTS = ['network', 'server', 'session', 'window'] as const;
/** How often each comes, and what is done meanwhile. */
const WEATHER: readonly (typeof FAULTS)[number][] = ['network', 'network', 'server', 'session', 'window'];
const ACTIONS = ['write', 'write', 'page', 'bring in', 'record', 'record', 'trim'] as const;

/** What somebody has done, and when it was done. */
export interface Done {
  kind: (typeof DONE)[number];
  n: number;
  atMs: number;
  /** In which step. */
  step: string;
}

/** What the storm has seen done, and when it took a window away. */
export interface Logbook {
  done: Done[];
  windowsGoneMs: number[];
  faults: Record<string, number>;
  /** Actions that found no way, such as writing while another window was thought to record. */
  skipped: number;
  /** Strokes that left no ink. */
  unseen: number;
}

export const placeOfStroke = (n: number): [number, number] => [
  LEFT + (n % COLUMNS) * ACROSS,
  TOP + Math.floor(n / COLUMNS) * DOWN,
];

/**
 * A person works on a new lesson while the network, the window, the server and the session fail at random. In the end all
 * is well again, and the person comes back.
 */
export class Storm {
  readonly logbook: Logbook = { done: [], windowsGoneMs: [], faults: {}, skipped: 0, unseen: 0 };
  private readonly random: () => number;
  private readonly faultsToCome: (typeof FAULTS)[number][] = [];
  private readonly actionsToCome: (typeof ACTIONS)[number][] = [];
  private teacher!: Person;
  private url = '';
  private isOffline = false;
  private serverBack: Promise<void> | null = null;
  private onlineAgainMs = 0;
  private strokes = 0;
  private pictures = 0;

  constructor(
    private readonly school: School,
    private readonly browser: Browser,
    seed: number,
  ) {
    this.random = seeded(seed);
  }

  /**
   * Rages for so long, and until it has written more than so many strokes, done each kind of thing, and seen each kind of fault: on a slow
   * machine that takes longer.
   * @returns the person, with the lesson open and everything sent
   */
  async rage(seconds: number, strokes = 0): Promise<Person> {
    await this.begin();
    const untilMs = Date.now() + seconds * 1000;
    const written = () => this.logbook.done.filter(({ kind }) => kind === 'stroke').length;
    while (Date.now() < untilMs || written() <= strokes || !this.hasDoneAll()) {
      await this.weather();
      await this.act();
    }
    await this.calm();
    return this.teacher;
  }

  private hasDoneAll(): boolean {
    const { done, faults } = this.logbook;
    const kinds = new Set(done.map(({ kind }) => kind));
    return DONE.every((kind) => kinds.has(kind)) && FAULTS.every((fault) => fault in faults);
  }

  private async begin(): Promise<void> {
    this.teacher = await Person.at(this.browser, this.school.url);
    await this.teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await this.teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
    const lesson = await this.teacher.request<{ id: string }>('POST', '/lessons', { title: 'In a storm' });
    this.url = `${this.school.url}/lesson/${lesson.id}`;
    await this.teacher.page.goto(this.url);
    // Only what may fail in the storm is given up soon.
    this.teacher.page.setDefaultTimeout(ACTION_TIMEOUT_MS);
  }

  /** What comes next: each in its turn, in an order that is another one every time, so that none stays away for long. */
  private inTurn<T>(toCome: T[], all: readonly T[]): T {
    if (toCome.length === 0) toCome.push(...all);
    const [next] = toCome.splice(Math.floor(this.random() * toCome.length), 1);
    return next;
  }

  private note(kind: Done['kind'], n: number): void {
    const step = new URL(this.teacher.page.url()).pathname.split('/').at(-1)!;
    this.logbook.done.push({ kind, n, atMs: Date.now(), step });
  }

  private count(fault: string): void {
    this.logbook.faults[fault] = (this.logbook.faults[fault] ?? 0) + 1;
  }

  /** Lets what has failed come back, and sometimes something else fail. */
  private async weather(): Promise<void> {
    if (this.isOffline && Date.now() > this.onlineAgainMs) await this.setOffline(false);
    if (this.random() > 0.25) return;
    const fault = this.inTurn(this.faultsToCome, WEATHER);
    const isThereAlready = (fault === 'network' && this.isOffline) || (fault === 'server' && this.serverBack !== null);
    if (isThereAlready) return void this.faultsToCome.push(fault);
    switch (fault) {
      case 'network':
        this.count('network');
        this.onlineAgainMs = Date.now() + 500 + this.random() * 6000;
        return this.setOffline(true);
      case 'server':
        this.count('server');
        return this.killServer();
      case 'session':
        this.count('session');
        return this.teacher.page.deleteCookie(...(await this.teacher.page.cookies()));
      case 'window':
        this.count('window');
        return this.loseWindow();
    }
  }

  private async setOffline(is: boolean): Promise<void> {
    this.isOffline = is;
    await this.teacher.page.setOfflineMode(is);
  }

  private async killServer(): Promise<void> {
    await this.school.kill();
    const downMs = 300 + this.random() * 3000;
    this.serverBack = new Promise((resolve) => setTimeout(resolve, downMs))
      .then(() => this.school.begin())
      .then(() => void (this.serverBack = null));
  }

  private async loseWindow(): Promise<void> {
    const gone = this.teacher.page;
    const next = await this.browser.newPage();
    await next.close();
    this.logbook.windowsGoneMs.push(Date.now());
    await gone.close();
    await this.open();
  }

  /** Opens the lesson anew; without network and server there is no page. */
  private async open(): Promise<void> {
    await this.serverBack;
    this.isOffline = false;
    this.teacher = await Person.at(this.browser, this.url);
    this.teacher.page.setDefaultTimeout(ACTION_TIMEOUT_MS);
    await this.signInIfAsked();
  }

  private async signInIfAsked(): Promise<void> {
    const { page } = this.teacher;
    if (new URL(page.url()).pathname === '/sign-in') {
      await this.teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
      await page.goto(this.url);
    }
    const isAsked = () => page.evaluate(() => document.body.innerText.includes('Sign in again'));
    if (!(await isAsked())) return;
    await this.serverBack;
    if (this.isOffline) await this.setOffline(false);
    await this.teacher.fill('Password', DEMO_TEACHER.password);
    await this.teacher.press('Sign in');
    await page.waitForFunction(() => !document.body.innerText.includes('Sign in again'));
  }

  private async act(): Promise<void> {
    const action = this.inTurn(this.actionsToCome, ACTIONS);
    try {
      await this.signInIfAsked();
      switch (action) {
        case 'write':
          await this.teacher.press('Prepare');
          await this.write(1 + Math.floor(this.random() * 5));
          return;
        case 'page':
          await this.teacher.press('Prepare');
          await this.teacher.page.keyboard.press('n');
          return;
        case 'bring in':
          return await this.bringIn();
        case 'record':
          return await this.record();
        case 'trim':
          return await this.cut();
      }
    } catch {
      // A window that is gone, a screen that says why it cannot be: the next action finds its way.
      this.logbook.skipped++;
    }
  }

  private async write(count: number): Promise<void> {
    await this.teacher.find('image', 'Page to write on');
    await this.teacher.page.keyboard.press('p');
    for (let i = 0; i < count; i++) {
      const n = this.strokes++;
      const [u, v] = placeOfStroke(n);
      await this.teacher.stroke([u, v], [u + ACROSS / 2, v + DOWN / 2], 4);
      if (await this.isInk(u + ACROSS / 4, v + DOWN / 4)) this.note('stroke', n);
      else this.logbook.unseen++;
    }
  }

  /** Whether ink is to be seen at a place. Where a dialog came over the page meanwhile, nothing was written, as everybody sees. */
  private async isInk(u: number, v: number): Promise<boolean> {
    for (const untilMs = Date.now() + SEEN_WITHIN_MS; Date.now() < untilMs;) {
      const [red, green, blue] = await colorAt(this.teacher, u, v);
      if (Math.max(red, green, blue) < DARK) return true;
    }
    return false;
  }

  private async bringIn(): Promise<void> {
    await this.teacher.press('Prepare');
    await this.teacher.find('image', 'Page to write on');
    const n = this.pictures++;
    const canvas = createCanvas(12, 12);
    const context = canvas.getContext('2d');
    context.fillStyle = `hsl(${(n * 37) % 360} 60% 50%)`;
    context.fillRect(0, 0, 12, 1 + (n % 12));
    await this.teacher.paste(`buoy-${n}.png`, 'image/png', canvas.toBuffer('image/png'));
    // It has been brought in when it is held, to be put where it belongs.
    await this.teacher.find('toolbar', 'Picture');
    this.note('picture', n);
  }

  private async record(): Promise<void> {
    await this.teacher.press('Record');
    await this.teacher.press('Record this lesson');
    await this.teacher.find('button', 'Pause');
    const n = this.logbook.done.filter(({ kind }) => kind === 'take').length;
    const { teacher } = this;
    const rounds = 1 + Math.floor(this.random() * 3);
    for (let round = 0; round < rounds; round++) {
      await this.write(1 + Math.floor(this.random() * 3));
      await this.weather();
      // The window may have gone in the middle of it.
      if (this.teacher !== teacher) return this.note('take', n);
      await new Promise((resolve) => setTimeout(resolve, 300 + this.random() * 900));
    }
    await this.teacher.press('Stop');
    await this.teacher.isGone('button', 'Stop');
    this.note('take', n);
  }

  /** Cuts the first second out of the trail. */
  private async cut(): Promise<void> {
    await this.teacher.press('Trim');
    const playhead = await this.teacher.find('slider', 'Playhead');
    const length = () => playhead.evaluate((one) => Number(one.getAttribute('aria-valuemax')));
    const before = await length();
    if (before < 3 * 48_000) return;
    await playhead.focus();
    await this.teacher.page.keyboard.press('Home');
    await this.teacher.page.keyboard.press('[');
    await this.teacher.page.keyboard.press('ArrowRight');
    await this.teacher.page.keyboard.press(']');
    await this.teacher.press('Cut, keep ink');
    await this.teacher.page.waitForFunction(
      (one, was) => Number(one.getAttribute('aria-valuemax')) < was,
      {},
      playhead,
      before,
    );
    this.note('cut', before - (await length()));
  }

  /** Lets all be well, and waits until the school has everything. */
  private async calm(): Promise<void> {
    await this.serverBack;
    if (this.isOffline) await this.setOffline(false);
    this.teacher.page.setDefaultTimeout(30_000);
    await this.signInIfAsked();
    const { page } = this.teacher;
    if (await page.$('::-p-aria([name="Stop"][role="button"])')) await this.teacher.press('Stop');
    let isSaved = false;
    while (!isSaved) {
      await this.signInIfAsked();
      await this.teacher.sees(/^Saved$|Sign in again/m, 90_000).catch(async (error: Error) => {
        // What is shown instead says why.
        throw new Error(`${error.message} Shown: ${await page.evaluate(() => document.body.innerText)}`);
      });
      isSaved = await page.evaluate(() => !document.body.innerText.includes('Sign in again'));
    }
  }
}
