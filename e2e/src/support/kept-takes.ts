import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import type { Person } from './browser';

/** A sound that was recorded elsewhere: Ogg Opus, and how long it is. */
export interface KeptSound {
  sound: Uint8Array;
  lengthSamples: number;
}

/** Makes a lesson with takes of these sounds, each handed over as a recording browser does. @returns its id */
export async function lessonOfSounds(person: Person, title: string, sounds: readonly KeptSound[]): Promise<string> {
  const { id } = await person.request<LessonDocument>('POST', '/lessons', { title });
  for (const [n, { sound, lengthSamples }] of sounds.entries()) {
    const take = `take-${n}-of-${id}`.slice(0, 36);
    await person.request('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
    const part = encodeTakePart({
      marks: [],
      unfinished: [],
      toSamples: lengthSamples,
      sound,
      heard: NOTHING_HEARD,
    });
    await sendBytes(person, `/takes/${take}/parts/0`, part);
    await person.request('POST', `/takes/${take}/end`, { parts: 1 });
  }
  return id;
}

async function sendBytes(person: Person, path: string, bytes: Uint8Array): Promise<void> {
  await person.page.evaluate(
    async (where, base64, version) => {
      const body = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
      const headers = { 'x-kite-trail': version, 'content-type': 'application/octet-stream' };
      const answer = await fetch(`/api${where}`, { method: 'PUT', headers, body });
      if (!answer.ok) throw new Error(`${where}: ${answer.status} ${await answer.text()}`);
    },
    path,
    Buffer.from(bytes).toString('base64'),
    String(PROTOCOL.version),
  );
}
