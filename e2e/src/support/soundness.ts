import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type Axe from 'axe-core';
import type { CDPSession } from 'puppeteer-core';
import { expect } from 'vitest';
import type { Person } from './browser';

/**
 * What can be checked by a machine of WCAG 2.2 AA, by axe-core; and the size of what is touched (success criterion 2.5.5).
 * That keys reach it all, the other tests show, which find things by role and name.
 */
const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const TOUCHED_PX = 44;

/** What is asked of axe-core: all, or only what another room may change. */
const ALL: Axe.RunOnly = {
  type: 'tag',
  values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
};
const COLORS: Axe.RunOnly = { type: 'rule', values: ['color-contrast', 'link-in-text-block'] };

/** Looks at what a person has on their screen, which fingers touch, in a bright and in a dark room. */
export class Soundness {
  private constructor(
    private readonly person: Person,
    private readonly devtools: CDPSession,
  ) {}

  static async of(person: Person): Promise<Soundness> {
    const devtools = await person.page.createCDPSession();
    const soundness = new Soundness(person, devtools);
    await devtools.send('Emulation.setTouchEmulationEnabled', { enabled: true, maxTouchPoints: 5 });
    await soundness.inRoom('light');
    return soundness;
  }

  /** Expects that nothing is wrong. */
  check = async (): Promise<void> => {
    const { page } = this.person;
    await this.isStill();
    expect(await this.faults(ALL)).toEqual([]);
    expect(await this.small()).toEqual([]);
    // In a dark room there is the same in other colours.
    await this.inRoom('dark');
    await page.waitForSelector('[data-room=dark]');
    await this.isStill();
    expect((await this.faults(COLORS)).map((fault) => `in a dark room, ${fault}`)).toEqual([]);
    await this.inRoom('light');
    await page.waitForSelector('[data-room=bright]');
  };

  private inRoom(scheme: 'light' | 'dark') {
    return this.devtools.send('Emulation.setEmulatedMedia', {
      features: [
        { name: 'any-pointer', value: 'coarse' },
        { name: 'prefers-color-scheme', value: scheme },
      ],
    });
  }

  private async faults(runOnly: Axe.RunOnly): Promise<string[]> {
    await this.person.page.evaluate(AXE);
    return this.person.page.evaluate(async (asked) => {
      const { axe } = window as unknown as { axe: typeof Axe };
      // The component library's cards have headings without a level.
      const { violations } = await axe.run({ exclude: ['.n-card-header'] }, { runOnly: asked });
      return violations.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`));
    }, runOnly);
  }

  /** Buttons and fields that can be seen and are smaller than a finger. */
  private small() {
    return this.person.page.evaluate(
      (least) =>
        [...document.querySelectorAll<HTMLElement>('button, select, [role="button"], [role="checkbox"]')].flatMap(
          (element) => {
            // What is ticked may be touched on its label.
            const touched = element.closest('label, [role="checkbox"]') ?? element;
            const { width, height } = touched.getBoundingClientRect();
            if (width === 0 || (width >= least - 0.5 && height >= least - 0.5)) return [];
            const name = element.getAttribute('aria-label') ?? element.textContent?.trim();
            return [`${name}: ${Math.round(width)} × ${Math.round(height)}`];
          },
        ),
      TOUCHED_PX,
    );
  }

  /** What is still fading in has not got its colours yet. */
  private isStill() {
    return this.person.page.waitForFunction(() =>
      document
        .getAnimations()
        .every((one) => one.playState !== 'running' || one.effect?.getComputedTiming().iterations === Infinity),
    );
  }
}
