import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { inkOfPages } from '@kite-trail/core/formats/inkml/ink-of-pages';
import { writeInkMl } from '@kite-trail/core/formats/inkml/write-inkml';
import { writeSubRip, writeWebVtt } from '@kite-trail/core/formats/timed-text';
import { writeMarkdown, writeTranscript } from '@kite-trail/core/formats/transcript';
import { ROOT } from '@kite-trail/server/place';
import { makeOfflinePage, type OfflineKind } from '@kite-trail/web/workers/offline-page/offline-page';
import { filmOf } from './film';
import { sharedLesson, type SharedLesson } from './lesson';
import { drawnAsSvg, handoutOf, painted } from './paper';
import type { SchoolCalls } from './school-calls';

const PICTURE_WIDTH_PX = 1920;
const OFFLINE_WIDTH_PX = 960;

/**
 * Puts one of each kind of file that can be made of a lesson into a folder: what a browser makes is made by the same program here.
 * @param title the lesson's, which is shared and has no pictures
 * @returns the files' names; without the video where the school has nothing that encodes it
 */
export async function makeOneOfEach(school: SchoolCalls, title: string, folder: string): Promise<string[]> {
  const lesson = await sharedLesson(school, title);
  const { id, about, timeline, captions, sound, transcript } = lesson;
  const [first] = timeline.end.pages;
  const files: Record<string, string | Uint8Array | null> = {
    '.pdf': await handoutOf(lesson),
    '.png': await painted(first, PICTURE_WIDTH_PX).encode('png'),
    '.svg': drawnAsSvg(first, title),
    '.m4a': new Uint8Array(await sound.arrayBuffer()),
    '.txt': writeTranscript(transcript),
    '.md': writeMarkdown(transcript),
    '.vtt': about.hasCaptions ? writeWebVtt(captions) : null,
    '.srt': about.hasCaptions ? writeSubRip(captions) : null,
    '.inkml': writeInkMl(title, inkOfPages(timeline.end.pages, timeline.trail)),
    '.html': await offlinePageOf(lesson, 'page'),
    ', SCORM.zip': await offlinePageOf(lesson, 'course'),
    ', archive.zip': await school.bytes(`/lessons/${id}/archive`),
    '.mp4': await filmOf(school, lesson),
  };
  mkdirSync(folder, { recursive: true });
  return Object.entries(files).flatMap(([ending, content]) => {
    if (content === null) return [];
    writeFileSync(join(folder, title + ending), content);
    return [title + ending];
  });
}

async function offlinePageOf(lesson: SharedLesson, kind: OfflineKind): Promise<Uint8Array> {
  const { id, title, language, about, payload, captions, sound, transcript } = lesson;
  const page = await makeOfflinePage(
    {
      lesson: id,
      language,
      about: { ...about, publication: id, title, mayDownload: false, mayAsk: false, questions: [], isCounted: false },
      payload,
      captions: about.hasCaptions ? writeWebVtt(captions) : null,
      lines: transcript.lines,
    },
    sound,
    kind,
    {
      program: async () => readFileSync(join(ROOT, 'web/dist/carried.html'), 'utf8'),
      file: () => Promise.reject(new Error('This lesson has no pictures.')),
      picture: async (state) => {
        const bytes = await painted(state, OFFLINE_WIDTH_PX).encode('webp', 80);
        return new Blob([new Uint8Array(bytes)], { type: 'image/webp' });
      },
      base64: async (file) => Buffer.from(await file.arrayBuffer()).toString('base64'),
    },
  );
  return new Uint8Array(await page.arrayBuffer());
}
