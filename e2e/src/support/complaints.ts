import type { Browser, Page } from 'puppeteer-core';

/**
 * What browsers say by themselves, and what is no mistake of a page's: answers of the school that refuse something, the network that a
 * test takes away (also said by what muxes sound), canvases that tests read, and programs in pictures, which are kept from running.
 */
const NO_MISTAKES = [
  /^Failed to load resource: the server responded with a status of 4\d\d .*\/api\//,
  /^Failed to load resource: the server responded with a status of 5(03|07) .*\/api\//,
  /^Failed to load resource: net::ERR_/,
  /^WebSocket connection to .*\/api\/followed\/.* failed: /,
  /^Retrying failed fetch/,
  /^Canvas2D: Multiple readback operations/,
  /^Executing inline event handler violates .*Content Security Policy/,
];

/** What pages of browsers have complained about: errors and warnings in the console, and errors that nobody caught. */
const heard: string[] = [];

/** Hears the complaints of every page of a browser, also of windows that pages open. */
export function hearComplaints(browser: Browser): void {
  browser.on('targetcreated', (target) => {
    if (target.type() !== 'page') return;
    // A window that closes at once has no page to be heard.
    void target.page().then(
      (page) => page && listenTo(page),
      () => undefined,
    );
  });
}

function listenTo(page: Page): void {
  page.on('console', (message) => {
    if (message.type() !== 'error' && message.type() !== 'warn') return;
    const complaint = `${message.text()} (${message.location().url ?? page.url()})`;
    if (!NO_MISTAKES.some((one) => one.test(complaint))) heard.push(complaint);
  });
  page.on('pageerror', (error) => {
    heard.push(`not caught: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`);
  });
}

/** What was heard since this was last asked. */
export const takeComplaints = (): string[] => heard.splice(0);
