import type { Response } from 'express';

const KEEP_ALIVE_MS = 25_000;

/** Opens a response for server-sent events (WHATWG HTML, section 9.2). */
export function openEvents(response: Response): void {
  response.set({
    'Content-Type': 'text/event-stream',
    // `no-transform` keeps the news from waiting in a compressor.
    'Cache-Control': 'no-cache, no-transform',
    'X-Accel-Buffering': 'no',
  });
  response.flushHeaders();
}

export const writeEvent = (response: Response, news: object): void =>
  void response.write(`data: ${JSON.stringify(news)}\n\n`);

/**
 * Keeps a response of events from being taken for dead, as long as who listens may.
 * @param over is called when they may no longer
 */
export function keepAliveEvents(response: Response, mayListen: () => Promise<boolean>, over: () => void): void {
  const beat = async () => {
    // A database that cannot be asked just now shuts nobody out.
    if (await mayListen().catch(() => true)) response.write(': alive\n\n');
    else over();
  };
  const alive = setInterval(() => void beat(), KEEP_ALIVE_MS);
  response.on('close', () => clearInterval(alive));
}
