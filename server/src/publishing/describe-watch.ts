import type { Watch } from '@kite-trail/core/contract/watch';
import type { LinkRow, PublicationRow } from '../database/rows';
import type { Ground } from '../http/route';
import { isCounted } from '../insight/visits';
import { rulesOf } from '../links/live';
import { answeredIn, mayAsk } from '../questions/questions';

/** What whoever opens a link is told of what it plays. */
export async function describeWatch(at: Ground, link: LinkRow, publication: PublicationRow): Promise<Watch> {
  const { allows } = rulesOf(link);
  return {
    publication: publication.id,
    title: publication.title,
    lengthSamples: Number(publication.length_samples),
    pageCount: publication.page_count,
    hasSound: publication.sound_asset !== null,
    hasCaptions: publication.captions !== null && allows.captions,
    mayDownload: allows.download,
    loudness: publication.loudness?.toString('base64') ?? '',
    chapters: publication.chapters === null ? [] : JSON.parse(publication.chapters),
    prompts: publication.prompts === null ? [] : JSON.parse(publication.prompts),
    mayAsk: mayAsk(link, publication),
    questions: await answeredIn(at, link, publication),
    isCounted: await isCounted(at.db, link),
  };
}
