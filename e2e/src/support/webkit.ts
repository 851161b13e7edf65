import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { Builder, By, Capabilities, Origin, type WebElement } from 'selenium-webdriver';
import { DriverService } from 'selenium-webdriver/remote';
import type { Viewer } from './viewer';

const PATIENCE_MS = 60_000;
const SIZE = { x: 0, y: 0, width: 1280, height: 860 };

/** Somebody at WebKit's own small browser, which needs a screen: one that nobody sees. */
export async function webkitViewer(environment: Record<string, string>): Promise<Viewer> {
  const home = mkdtempSync(join(tmpdir(), 'kite-trail-webkit-'));
  const screen = spawn('Xvfb', ['-displayfd', '3', '-screen', '0', '1400x1000x24'], {
    stdio: ['ignore', 'ignore', 'ignore', 'pipe'],
  });
  const [display] = (await once(screen.stdio[3] as Readable, 'data')) as [Buffer];
  const env = { ...process.env, ...environment, DISPLAY: `:${display.toString().trim()}`, HOME: home };
  const driver = new DriverService.Builder(process.env.WEBKIT_DRIVER ?? '/usr/bin/WebKitWebDriver')
    .setHostname('127.0.0.1')
    .setEnvironment(env as Record<string, string>)
    .build();
  const browser = await new Builder()
    .usingServer(await driver.start(PATIENCE_MS))
    .withCapabilities(new Capabilities({ browserName: 'MiniBrowser' }))
    .build();
  await browser.manage().window().setRect(SIZE);

  /** The button of this name, once it is there. */
  const button = (name: string): Promise<WebElement> =>
    browser.wait(async () => {
      const all = await browser.findElements(By.css('button'));
      const names = await Promise.all(all.map((one) => one.getAccessibleName().catch(() => '')));
      return all[names.indexOf(name)];
    }, PATIENCE_MS) as Promise<WebElement>;

  return {
    open: (url) => browser.get(url),
    press: async (name) => (await button(name)).click(),
    clickAt: (x, y) =>
      browser
        .actions()
        .move({ x: Math.round(x), y: Math.round(y), origin: Origin.VIEWPORT })
        .click()
        .perform(),
    run: (work, ...args) => browser.executeScript(`return (${work.toString()}).apply(null, arguments)`, ...args),
    async close() {
      await browser.quit();
      await driver.kill();
      screen.kill();
      await once(screen, 'exit');
      rmSync(home, { recursive: true, force: true });
    },
  };
}
