import { LIVE_KEY_HEADER } from '@kite-trail/core/contract/live';
import { watchToken } from '@kite-trail/core/contract/primitives';
import type { Request } from 'express';
import type { Knex } from 'knex';
import type {
  ClassRow,
  LessonRow,
  LinkRow,
  LiveFileRow,
  LivePageRow,
  PublicationAssetRow,
  PublicationRow,
} from '../database/rows';
import { hasEnded } from '../links/live';
import { checkPass } from '../links/passcode';
import { liveByToken, mayShow, WHOLE_FILE } from '../live/live-pages';
import { assetOf, countOf } from './named';
import { notFound, RequestProblem } from './problem';
import type { Grants } from './rights';

/** What somebody has a right to who has a link, a code or a key, whoever they are. */
export const HOLDERS_GRANTS = {
  'the live page’s follower': async (db, request) => ({ page: await followedPage(db, request) }),
  'the live page’s file, for its follower': async (db, request) => {
    const { token, lesson_id } = await followedPage(db, request);
    const asset = assetOf(request);
    const page_index = request.params.n === undefined ? WHOLE_FILE : countOf(request.params.n, 'page');
    const seen = await db<LiveFileRow>('live_files').where({ token, asset_id: asset, page_index }).first();
    const lesson = seen && (await db<LessonRow>('lessons').where({ id: lesson_id }).first());
    if (!lesson) throw notFound('file');
    return { lesson, asset };
  },
  'the live page’s shower': async (db, request) => {
    const page = await followedPage(db, request);
    if (!(await mayShow(db, page.token, keyOf(request)))) throw shownElsewhere();
    return { page };
  },
  'the class page’s holder': async (db, request) => {
    const token = watchToken.safeParse(request.params.token);
    const found = token.success ? await db<ClassRow>('classes').where({ page_token: token.data }).first() : undefined;
    if (!found) throw noSuchLink();
    return { schoolClass: found };
  },
  'the link’s holder, before its passcode': async (db, request) => ({ link: await liveLink(db, request) }),
  'the link’s holder': async (db, request) => ({ link: await openLink(db, request) }),
  'the link’s publication, for its holder': publicationOf,
  'the publication’s file, for the link’s holder': async (db, request) => {
    const { publication } = await publicationOf(db, request);
    const asset = assetOf(request);
    const has = await db<PublicationAssetRow>('publication_assets')
      .where({ publication_id: publication.id, asset_id: asset })
      .first();
    if (!has) throw notFound('file');
    return { publication, asset };
  },
} satisfies Partial<Grants>;

/** The live page a request names. @throws RequestProblem when it is over */
async function followedPage(db: Knex, request: Request): Promise<LivePageRow> {
  const token = watchToken.safeParse(request.params.token);
  const page = token.success ? await liveByToken(db, token.data) : null;
  if (!page) throw new RequestProblem(404, 'over', 'This page is not shown any more.');
  return page;
}

/** What the window says that shows a live page. */
export const keyOf = (request: Request): string => String(request.get(LIVE_KEY_HEADER));

const shownElsewhere = () =>
  new RequestProblem(409, 'shown-elsewhere', 'Another window of yours shows its page under this code now.');

/**
 * A publication the link leads to, or led to: whoever has begun to watch one goes on with it when another is shared. What was
 * shared by a link that is withdrawn is shared by no later one.
 */
async function publicationOf(db: Knex, request: Request): Promise<{ link: LinkRow; publication: PublicationRow }> {
  const link = await openLink(db, request);
  const id = String(request.params.publication);
  const { lesson_id, part, leads_since } = link;
  const publication = await db<PublicationRow>('publications')
    .where({ id, lesson_id, part })
    .where('made_at', '>=', leads_since)
    .first();
  if (!publication) throw notFound('lesson');
  return { link, publication };
}

/** The link a request names, where it has no passcode or the request has its pass. @throws RequestProblem else */
export async function openLink(db: Knex, request: Request): Promise<LinkRow> {
  const link = await liveLink(db, request);
  checkPass(link, request.query.pass);
  return link;
}

const noSuchLink = () =>
  new RequestProblem(404, 'no-such-link', 'This link leads nowhere. Check that you have all of it.');

/** The link a request names. @throws RequestProblem when it is none, was withdrawn, or has ended */
export async function liveLink(db: Knex, request: Request): Promise<LinkRow> {
  const token = watchToken.safeParse(request.params.token);
  const link: (LinkRow & Pick<LessonRow, 'binned_at'>) | undefined = token.success
    ? await db('links')
        .join('lessons', 'lessons.id', 'lesson_id')
        .where({ token: token.data })
        .first('links.*', 'binned_at')
    : undefined;
  if (!link) throw noSuchLink();
  if (link.withdrawn_at) {
    throw new RequestProblem(410, 'withdrawn', 'The teacher has withdrawn this link. Ask them for a new one.');
  }
  if (hasEnded(link))
    throw new RequestProblem(410, 'ended', 'This link has come to its end. Ask your teacher for a new one.');
  if (link.binned_at) throw new RequestProblem(410, 'binned', 'The teacher has put this lesson away. Ask them for it.');
  return link;
}
