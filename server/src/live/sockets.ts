import type { IncomingMessage, Server } from 'node:http';
import { LARGEST_SIGHT_BYTES, LIVE_ENDS, shownKind } from '@kite-trail/core/contract/live';
import type { Knex } from 'knex';
import { WebSocketServer, type RawData, type WebSocket } from 'ws';
import { knownIn } from './events';
import { liveByToken, mayShow } from './live-pages';
import type { Follower, Relay, Shower } from './relay';

const ADDRESS = /^\/api\/followed\/([A-Za-z0-9_-]{22,64})\/(follow|show)$/;
const KEEP_ALIVE_MS = 25_000;
/** A window says its key within this time. */
const KEY_WITHIN_MS = 10_000;

interface Ground {
  db: Knex;
  relay: Relay;
}

/** Takes sockets (RFC 6455) of those who show and follow live pages. @returns ends them */
export function takeLiveSockets(server: Server, ground: Ground): () => void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: LARGEST_SIGHT_BYTES + 1 });
  server.on('upgrade', (request, socket, head): void => {
    socket.on('error', () => socket.destroy());
    const refuse = (status: string): void => void socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\n\r\n`);
    const { pathname, searchParams } = new URL(request.url ?? '/', 'http://school');
    const [, token, role] = ADDRESS.exec(pathname) ?? [];
    if (!token) return refuse('404 Not Found');
    if (isForeign(request)) return refuse('403 Forbidden');
    liveByToken(ground.db, token)
      .then((page): void => {
        if (!page) return refuse('404 Not Found');
        sockets.handleUpgrade(request, socket, head, (open) => {
          if (role === 'show') awaitKey(ground, token, open);
          else follow(ground, token, open, searchParams);
        });
      })
      .catch(() => refuse('503 Service Unavailable'));
  });
  return () => {
    for (const open of sockets.clients) open.terminate();
    sockets.close();
  };
}

/** Pages of other sites open no sockets here, as they send no requests (`http/guard`). */
function isForeign({ headers: { origin, host } }: IncomingMessage): boolean {
  return origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== host);
}

function follow({ db, relay }: Ground, token: string, socket: WebSocket, query: URLSearchParams): void {
  const follower: Follower = {
    show: (message) => socket.send(message),
    tell: (state) => socket.send(JSON.stringify(state)),
    end: (why) => socket.close(why),
    get waitingBytes() {
      return socket.bufferedAmount;
    },
  };
  const known = knownIn({ run: query.get('run') ?? undefined, n: query.get('n') ?? undefined });
  if (!relay.join(token, follower, known)) return follower.end(LIVE_ENDS.full);
  socket.on('close', () => relay.leave(token, follower));
  keepAlive(socket, async () => (await liveByToken(db, token)) !== null, LIVE_ENDS.over);
}

/** The first thing a window says that shows a page is its key. */
function awaitKey(ground: Ground, token: string, socket: WebSocket): void {
  const tooLate = setTimeout(() => socket.terminate(), KEY_WITHIN_MS);
  socket.on('close', () => clearTimeout(tooLate));
  socket.once('message', (data: RawData) => {
    clearTimeout(tooLate);
    const key = (data as Buffer).toString();
    // What it shows meanwhile waits.
    socket.pause();
    mayShow(ground.db, token, key)
      .then((may) => {
        if (may) show(ground, token, socket, key);
        else socket.close(LIVE_ENDS.elsewhere);
        socket.resume();
      })
      .catch(() => socket.terminate());
  });
  socket.on('error', () => socket.terminate());
}

function show({ db, relay }: Ground, token: string, socket: WebSocket, key: string): void {
  const shower: Shower = {
    tell: (news) => socket.send(JSON.stringify(news)),
    end: (why) => socket.close(why),
  };
  relay.begin(token, shower);
  socket.on('message', (data: RawData, isBinary) => {
    const bytes = data as Buffer;
    const kind = shownKind.safeParse(bytes[0]);
    if (isBinary && kind.success && relay.isShownBy(token, shower)) relay.take(token, kind.data, bytes.subarray(1));
  });
  socket.on('close', () => relay.pause(token, shower));
  keepAlive(socket, () => mayShow(db, token, key), LIVE_ENDS.over);
}

/** A line that answers no ping is dead; a page that is over is followed no longer. */
function keepAlive(socket: WebSocket, mayGoOn: () => Promise<boolean>, why: number): void {
  let isAlive = true;
  const beat = async () => {
    if (!isAlive) return socket.terminate();
    isAlive = false;
    socket.ping();
    // A database that cannot be asked just now shuts nobody out.
    if (!(await mayGoOn().catch(() => true))) socket.close(why);
  };
  const timer = setInterval(() => void beat(), KEEP_ALIVE_MS);
  socket.on('pong', () => (isAlive = true));
  socket.on('close', () => clearInterval(timer));
  socket.on('error', () => socket.terminate());
}
