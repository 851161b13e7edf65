import type { ChangedLink, Link, NewLink } from '@kite-trail/core/contract/link';
import { trim } from '@kite-trail/core/trail/edit';
import { placePart, type Part } from '@kite-trail/core/trail/part';
import type { Programme } from '@kite-trail/core/trail/programme';
import { ref, shallowRef } from 'vue';
import { useSheetPictures } from '../bring-in/sheet-pictures';
import { useAttempt } from '../controls/attempt';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';
import { useVoices } from '../lesson/voices';
import { soundFileOf } from '../playback/served-sound';
import { api } from '../server/api';
import { toBase64 } from '../server/base64';
import { assetIdOf, upload } from '../server/upload';

/** The lesson's links: made, brought up to date, changed, withdrawn. It goes on while its panel is closed. */
export const useSharing = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const voices = useVoices();
  const sheetPictures = useSheetPictures();
  /** From 0 to 1 while something is being published. */
  const progress = ref<number | null>(null);
  /** All links, the newest first; `null` while they are not known. */
  const links = shallowRef<Link[] | null>(null);
  const { problem, attempt } = useAttempt();

  /** Publishes the lesson as it is now, or a part of it: links to that lead there then. */
  async function publish(part: Part | null): Promise<void> {
    await Promise.all([lesson.save(), editing.arrived()]);
    await sheetPictures.drawMissing();
    const { id, edit } = lesson.document!;
    const programme = partOf(lesson.programme, part);
    const served = await voices.served(programme);
    const sound =
      served.voices.size > 0 ? await soundFileOf(served, 'aac', { onDone: (done) => (progress.value = done) }) : null;
    const named = sound && (await assetIdOf(sound));
    const about = {
      sound: named,
      loudness: sound ? toBase64(voices.loudnessOf(programme)) : '',
      part: part && [...part],
    };
    const send = () => api.publish(id, edit.n, about);
    await lesson.accept(await (sound && named ? upload(named, sound, send) : send()));
  }

  /** Does what takes long, with its progress. @returns whether it succeeded */
  async function working(what: () => Promise<void>): Promise<boolean> {
    progress.value = 0;
    const isDone = await attempt(what);
    progress.value = null;
    return isDone;
  }

  /** What changes links is told of by them, and by the lesson. */
  async function take(changed: readonly Link[]): Promise<void> {
    links.value = [...changed];
    await lesson.refresh();
  }

  /** Makes the lesson's link, or lets all of its links lead to what it is now. One whose part is gone is told of, and keeps none back. */
  const share = () =>
    working(async () => {
      const { id, link: main } = lesson.document!;
      if (!main?.upToDate) await publish(null);
      const stale = (await api.links(id)).filter(({ state, isUpToDate }) => state === 'live' && !isUpToDate);
      const parts = new Map(stale.flatMap(({ part }) => (part ? [[JSON.stringify(part), part]] : [])));
      const gone: Error[] = [];
      for (const part of parts.values()) await publish(part).catch((error: Error) => gone.push(error));
      await take(await api.links(id));
      if (gone.length > 0) throw gone[0];
    });

  const make = (link: Omit<NewLink, 'awaitsPasscode'>, passcode: string) =>
    working(async () => {
      const { id, link: main } = lesson.document!;
      if (link.part || !main?.upToDate) await publish(link.part);
      const { made, links: now } = await api.makeLink(id, { ...link, awaitsPasscode: passcode !== '' });
      await take(passcode ? await api.setPasscode(id, made, passcode) : now);
    });

  /** Where the school cannot be asked, what is known stays. */
  async function load(): Promise<void> {
    links.value = await api.links(lesson.document!.id).catch(() => links.value);
  }

  /** @param passcode a new one, `null` for none any more, `undefined` where it stays */
  const change = (token: string, to: ChangedLink, passcode: string | null | undefined) =>
    attempt(async () => {
      const { id } = lesson.document!;
      const changed = await api.changeLink(id, token, to);
      await take(passcode === undefined ? changed : await api.setPasscode(id, token, passcode));
    });

  const withdraw = (token: string) => attempt(async () => take(await api.withdrawLink(lesson.document!.id, token)));

  return {
    progress,
    links,
    problem,
    share,
    make,
    load,
    change,
    withdraw,
  };
});

/** @throws Error where nothing of the part is left */
function partOf(programme: Programme, part: Part | null): Programme {
  if (!part) return programme;
  const stretch = placePart(programme, part);
  if (!stretch) throw new Error('A part that has a link has been cut out of the lesson. Its link shows it as it was.');
  return trim(programme, stretch.fromSamples, stretch.toSamples);
}
