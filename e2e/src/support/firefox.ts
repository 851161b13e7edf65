import puppeteer, { type Browser } from 'puppeteer-core';
import { Person } from './browser';
import type { Viewer } from './viewer';

/** Starts Debian's Firefox with nothing in it; a tone stands in for its microphone. What is saved goes into a folder. */
export async function openFirefox(environment: Record<string, string>, downloads?: string): Promise<Browser> {
  return puppeteer.launch({
    browser: 'firefox',
    executablePath: process.env.FIREFOX ?? '/usr/bin/firefox-esr',
    headless: true,
    defaultViewport: { width: 1280, height: 800 },
    env: { ...process.env, ...environment },
    extraPrefsFirefox: {
      'media.navigator.streams.fake': true,
      'media.navigator.permission.disabled': true,
      ...(downloads ? { 'browser.download.folderList': 2, 'browser.download.dir': downloads } : {}),
    },
  });
}

/** A student at a Firefox. */
export async function firefoxViewer(environment: Record<string, string>): Promise<Viewer> {
  const browser = await openFirefox(environment);
  const person = await Person.at(browser, 'about:blank');
  return {
    open: async (url) => void (await person.page.goto(url)),
    press: (name) => person.press(name),
    clickAt: (x, y) => person.page.mouse.click(x, y),
    run: (work, ...args) => person.run(work, ...args),
    close: () => browser.close(),
  };
}
