import { createPartialResponse } from 'workbox-range-requests';

/**
 * Plays watched lessons without a network: what a page asks to have kept is kept, lesson by lesson, and the lessons that were watched
 * last stay. Where there is a network, pages and descriptions come from it; what never changes comes from what is kept.
 */
interface Waiting extends Event {
  waitUntil(work: Promise<unknown>): void;
}
interface Fetching extends Waiting {
  request: Request;
  respondWith(answer: Promise<Response>): void;
}
interface Keeping extends Waiting {
  data: { keep: string; urls: string[] };
}
interface Worker extends EventTarget {
  skipWaiting(): Promise<void>;
  clients: { claim(): Promise<void> };
}
const worker = self as unknown as Worker;

const PREFIX = 'watched ';
const MOST_LESSONS = 12;
/** There is no such link, or no more. */
const GONE = [404, 410];
/** On a network that hardly is one, what is kept is shown sooner. */
const PATIENCE_MS = 4000;

worker.addEventListener('install', () => void worker.skipWaiting());
worker.addEventListener('activate', (event) => (event as Waiting).waitUntil(worker.clients.claim()));
worker.addEventListener('message', (event) => {
  const { data, waitUntil } = event as Keeping;
  waitUntil.call(event, keep(data.keep, data.urls));
});
worker.addEventListener('fetch', (event) => {
  const fetching = event as Fetching;
  const { method, url } = fetching.request;
  const { origin, pathname } = new URL(url);
  if (method !== 'GET' || origin !== location.origin) return;
  if (/^\/(assets|example)\/|^\/api\/watch\/[^/]+\/publications\/|^\/kite\.svg/.test(pathname)) {
    fetching.respondWith(keptFirst(fetching.request));
  } else if (/^\/w\/|^\/api\/watch\/[^/]+$/.test(pathname)) {
    fetching.respondWith(networkFirst(fetching.request));
  }
});

/**
 * Keeps what a lesson needs; those watched longest ago go. What was kept of it before goes only when all is there anew: a page may be closed,
 * or the network be lost, in the middle.
 */
async function keep(lesson: string, urls: readonly string[]): Promise<void> {
  const before = (await keptLessons()).filter((name) => name.startsWith(PREFIX + lesson));
  // Names stand in the order in which they were made: those watched last come last.
  const name = `${PREFIX}${lesson} ${Date.now()}`;
  const cache = await caches.open(name);
  for (const path of urls) {
    const { href } = new URL(path, location.origin);
    const kept = await caches.match(href);
    const response = (isConstant(href) && kept) || (await fetchWhole(href).catch(() => kept));
    if (response?.status === 200) await cache.put(href, response);
    // Without a network, what was kept before is more than this.
    if (!response && before.length > 0) return void (await caches.delete(name));
  }
  for (const one of before) await caches.delete(one);
  const lessons = await keptLessons();
  for (const one of lessons.slice(0, Math.max(0, lessons.length - MOST_LESSONS))) await caches.delete(one);
}

/** Firefox answers with as much as its player had asked for, where that is all of it, too. */
async function fetchWhole(href: string): Promise<Response> {
  const response = await fetch(href);
  return response.status === 206 ? fetch(href, { cache: 'reload' }) : response;
}

const keptLessons = async (): Promise<string[]> => (await caches.keys()).filter((name) => name.startsWith(PREFIX));

/** What a teacher has withdrawn is not watched without a network, either. */
async function forget(token: string): Promise<void> {
  const page = new URL(`/w/${token}`, location.origin).href;
  for (const name of await keptLessons()) if (await (await caches.open(name)).match(page)) await caches.delete(name);
}

const isConstant = (href: string) => /\/assets\/|\/publications\//.test(new URL(href).pathname);

async function keptFirst(request: Request): Promise<Response> {
  const kept = await caches.match(request.url);
  if (!kept) return fetch(request);
  return request.headers.has('range') ? createPartialResponse(request, kept) : kept;
}

async function networkFirst(request: Request): Promise<Response> {
  const kept = await caches.match(request.url);
  const asked = fetch(request).then(async (answer) => {
    if (GONE.includes(answer.status)) await forget(new URL(request.url).pathname.split('/').at(-1)!);
    // A school that has trouble of its own is no answer.
    return kept && answer.status >= 500 ? kept : answer;
  });
  if (!kept) return asked;
  const late = new Promise<Response>((resolve) => setTimeout(() => resolve(kept), PATIENCE_MS));
  return Promise.race([asked.catch(() => kept), late]);
}
