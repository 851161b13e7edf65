import type { ArchivedLesson, ArchivedTake } from '../contract/archive';
import type { AssetId, TakeId } from '../lesson/ids';
import { withoutTake } from './edit';
import type { Programme } from './programme';

/** What is left of a lesson, and what is not, in words for its teacher. */
export interface Salvaged {
  lesson: ArchivedLesson;
  lost: string[];
}

/**
 * A lesson without what is damaged or missing of it: all else is as it was. A recording whose marks are gone is left out wherever it
 * played; one whose voice is gone is silent.
 * @param missing the assets that are not there, or are not what they are said to be
 */
export function salvage(lesson: ArchivedLesson, missing: ReadonlySet<AssetId>): Salvaged {
  const lost: string[] = [];
  const gone = new Set<TakeId>();
  const takes = lesson.takes.flatMap((take, n): ArchivedTake[] => {
    const called = take.name ? `“${take.name}”` : `recording ${n + 1}`;
    if (missing.has(take.marks)) {
      gone.add(take.id);
      lost.push(`All of ${called}`);
      return [];
    }
    const hasVoice = take.sound !== null && !missing.has(take.sound);
    if (take.sound !== null && !hasVoice) lost.push(`The voice of ${called}`);
    // What is heard of a voice can be listened for anew.
    const profile = hasVoice && take.profile !== null && !missing.has(take.profile) ? take.profile : null;
    const sound = hasVoice ? take.sound : null;
    return [{ ...take, sound, hasSound: take.hasSound && hasVoice, profile }];
  });
  const files = lesson.files.filter(({ asset, name }) => {
    if (missing.has(asset)) lost.push(`The file “${name}”`);
    return !missing.has(asset);
  });
  // A picture of a PDF's page is drawn anew when the lesson is opened.
  const sheets = lesson.sheets.filter(({ asset, picture }) => !missing.has(asset) && !missing.has(picture));
  if (gone.size === 0) return { lesson: { ...lesson, takes, files, sheets }, lost };
  return {
    lesson: {
      ...lesson,
      ...{ files, sheets },
      takes: takes.map((take) => (mentions(take.plan, gone) ? { ...take, plan: { kind: 'carry-on' } } : take)),
      edition: editionWithout(lesson.edition, gone),
      versions: lesson.versions.map((version) => ({ ...version, edition: editionWithout(version.edition, gone) })),
    },
    lost,
  };
}

function editionWithout(edition: ArchivedLesson['edition'], gone: ReadonlySet<TakeId>): ArchivedLesson['edition'] {
  const isLeft = ({ take }: { take: TakeId }) => !gone.has(take);
  let programme: Programme = edition.programme;
  for (const take of gone) programme = withoutTake(programme, take);
  return {
    ...edition,
    // Its pages cannot be made either.
    programme: programme.filter(isLeft) as ArchivedLesson['edition']['programme'],
    inkEdits: edition.inkEdits.filter(({ at }) => at === undefined || at === 'start' || isLeft(at)),
    chapters: edition.chapters.filter(isLeft),
    prompts: edition.prompts.filter(isLeft),
    captions: edition.captions
      .map((caption) => ({ ...caption, spans: caption.spans.filter(isLeft) }))
      .filter(({ spans }) => spans.length > 0),
  };
}

/** Whether a take is named anywhere in it. */
function mentions(value: unknown, takes: ReadonlySet<TakeId>): boolean {
  if (typeof value !== 'object' || value === null) return false;
  return Object.entries(value).some(([key, own]) => (key === 'take' ? takes.has(own as TakeId) : mentions(own, takes)));
}
