import { lesson as lessonSchema, lessonSummary } from '@kite-trail/core/contract/lesson';
import { watch, type Watch } from '@kite-trail/core/contract/watch';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import { readTimedText, type TimedText } from '@kite-trail/core/formats/timed-text';
import type { Transcript } from '@kite-trail/core/formats/transcript';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { seenTexts } from '@kite-trail/core/search/typed';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { z } from 'zod';
import type { SchoolCalls } from './school-calls';

/** A lesson as those who have its link get it. */
export interface SharedLesson {
  id: LessonId;
  title: string;
  language: string;
  /** Where it is watched. */
  address: string;
  about: Watch;
  payload: Uint8Array<ArrayBuffer>;
  timeline: Timeline;
  captions: readonly TimedText[];
  /** AAC in MP4. */
  sound: Blob;
  transcript: Transcript;
}

/** @throws Error where no lesson of this name is shared */
export async function sharedLesson(school: SchoolCalls, title: string): Promise<SharedLesson> {
  const lessons = z.array(lessonSummary).parse(await (await school.ask('GET', '/lessons')).json());
  const id = lessons.find((one) => one.title === title)?.id;
  const lesson = lessonSchema.parse(await (await school.ask('GET', `/lessons/${id}`)).json());
  const at = `/watch/${lesson.link!.token}`;
  const about = watch.parse(await (await school.ask('GET', at)).json());
  const part = (name: string) => school.bytes(`${at}/publications/${about.publication}/${name}`);
  const payload = await part('payload');
  const timeline = timelineOf(decodePayload(payload));
  const captions = about.hasCaptions ? readTimedText(new TextDecoder().decode(await part('captions'))) : [];
  const said = captions.map(({ startMs, text }) => ({ kind: 'said' as const, startSeconds: startMs / 1000, text }));
  const written = seenTexts(timeline.base, timeline.trail.marks).map(({ atSamples, text }) => ({
    kind: 'written' as const,
    startSeconds: samplesToSeconds(atSamples),
    text,
  }));
  const chapters = about.chapters.map(({ startSamples, title: name }) => ({
    startSeconds: samplesToSeconds(startSamples),
    title: name,
  }));
  return {
    ...{
      id: lesson.id,
      title,
      language: lesson.about.language,
      address: `${school.origin}${at}`,
      about,
      payload,
      timeline,
    },
    captions,
    sound: new Blob([await part('sound')], { type: 'audio/mp4' }),
    transcript: { title, chapters, lines: [...said, ...written] },
  };
}
