import type { CaptionId, TakeId } from '@kite-trail/core/lesson/ids';
import { spreadScript } from '@kite-trail/core/trail/caption-layout';
import { spansBetween, type Caption } from '@kite-trail/core/trail/captions';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { cut, quickened, withStill, type Stretch } from '@kite-trail/core/trail/edit';
import type { Edition } from '@kite-trail/core/trail/edition';
import { closing, pausesIn, silentWritingIn } from '@kite-trail/core/trail/quiet';
import { placeSegments, toProgramme, type Programme, rangeOf } from '@kite-trail/core/trail/programme';
import { flatten } from '@kite-trail/core/trail/trail';
import type { Take } from '@kite-trail/core/trail/take';
import type { LessonRow } from '@kite-trail/server/database/rows';
import { currentEdition, editLesson } from '@kite-trail/server/lessons/editions';
import { keepVersion, writeVersion } from '@kite-trail/server/lessons/versions';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { readNarration } from './narration/files';
import { recordedTake } from './record';
import type { Script, Tidied } from './teaching/script';

/** Silent writing shorter than this is left as it is; else it plays so many times faster. */
const LEAST_WRITING_SECONDS = 1;
const WRITING_PACE = 3;
/** Of every pause of that length or longer, so much stays. */
const LEAST_PAUSE_SECONDS = 1;
const PAUSE_STAYS_SECONDS = 0.5;

/** Tidies a recorded lesson up as its teacher would: one edit after the other, each of which can be undone. */
export async function tidyUp(db: Knex, lesson: LessonRow, id: TakeId, script: Script, how: Tidied): Promise<void> {
  const { marks, lengthSamples } = recordedTake(script);
  const { startsSamples, endsSamples } = readNarration(script.name);
  const speech = startsSamples.map((fromSamples, i): Stretch => ({ fromSamples, toSamples: endsSamples[i] }));
  const takes = new Map<TakeId, Take>([[id, { id, lengthSamples, sound: null, marks }]]);
  const lessonNow = async () => (await db<LessonRow>('lessons').where({ id: lesson.id }).first())!;
  const edit = async (change: (before: Edition) => Partial<Edition>) => {
    const now = await lessonNow();
    const before = await currentEdition(db, now);
    await editLesson(db, now, { ...before, ...change(before) });
  };
  const each = (
    find: typeof pausesIn,
    leastSeconds: number,
    act: (programme: Programme, stretch: Stretch) => Programme,
  ) =>
    edit(({ programme }) => {
      const found = find(programme, flatten(programme, takes), () => speech, secondsToSamples(leastSeconds));
      return { programme: found.reduceRight<Programme>(act, programme) };
    });

  await keepVersion(db, await lessonNow(), 'As it was spoken', await writeVersion(db, { lesson: lesson.id }));
  await edit(({ programme }) => ({ captions: captionsOf(script, speech, programme) }));
  await each(silentWritingIn, LEAST_WRITING_SECONDS, (programme, one) => quickened(programme, one, WRITING_PACE));
  await each(pausesIn, LEAST_PAUSE_SECONDS, (programme, one) =>
    cut(programme, closing(one, secondsToSamples(PAUSE_STAYS_SECONDS)), 'keep'),
  );
  await edit(({ programme }) => {
    const thinks = startsSamples[how.thinkBefore.beat];
    const at = placeSegments(programme).find(
      ({ segment }) => thinks >= rangeOf(segment).fromSamples && thinks < rangeOf(segment).toSamples,
    );
    return at
      ? { programme: withStill(programme, toProgramme(at, thinks), secondsToSamples(how.thinkBefore.seconds)) }
      : {};
  });
  await edit(() => ({ chapters: chaptersOf(how, id, startsSamples, marks) }));
}

const captionsOf = (script: Script, speech: readonly Stretch[], programme: Programme): Caption[] =>
  script.beats.flatMap(({ say }, beat) =>
    spreadScript(say, [speech[beat]]).map(({ text, fromSamples, toSamples }) => ({
      id: nanoid(12) as CaptionId,
      text,
      spans: spansBetween(programme, fromSamples, toSamples),
    })),
  );

/** Chapters begin with their beats; page turns make none of their own. */
function chaptersOf(
  { chapters }: Tidied,
  take: TakeId,
  startsSamples: readonly number[],
  marks: Take['marks'],
): Edition['chapters'] {
  const turns = marks.filter(({ kind, atSamples }) => kind === 'turn' && atSamples > 0);
  return [
    ...turns.map(({ atSamples }) => ({ take, atSamples, title: null })),
    ...chapters.map(({ beat, title }) => ({ take, atSamples: startsSamples[beat], title })),
  ];
}
