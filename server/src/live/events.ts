import type { Request, Response } from 'express';
import type { Knex } from 'knex';
import { LIVE_ENDS } from '@kite-trail/core/contract/live';
import { keepAliveEvents, openEvents, writeEvent } from '../http/events';
import { liveByToken } from './live-pages';
import type { Follower, Known, Relay } from './relay';

/** Lets somebody follow a page by server-sent events, where no socket can be kept open. What is shown is base64 there. */
export function listenByEvents(
  { relay, db }: { relay: Relay; db: Knex },
  token: string,
  request: Request,
  response: Response,
): void {
  openEvents(response);
  const follower: Follower = {
    show: (message) => writeEvent(response, { shown: Buffer.from(message).toString('base64') }),
    tell: (state) => writeEvent(response, state),
    end: (why) => {
      writeEvent(response, { end: why });
      response.end();
    },
    get waitingBytes() {
      return response.writableLength;
    },
  };
  if (!relay.join(token, follower, knownIn(request.query))) return follower.end(LIVE_ENDS.full);
  const isStillLive = async () => (await liveByToken(db, token)) !== null;
  keepAliveEvents(response, isStillLive, () => follower.end(LIVE_ENDS.over));
  response.on('close', () => relay.leave(token, follower));
}

/** What a follower says they know who comes back after a break. */
export function knownIn({ run, n }: { run?: unknown; n?: unknown }): Known | null {
  const count = Number(n);
  return typeof run === 'string' && n !== undefined && Number.isInteger(count) ? { run, n: count } : null;
}
