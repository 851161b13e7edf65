import { USUAL_FILM } from '@kite-trail/core/film/settings';
import { decodePayload } from '@kite-trail/core/formats/payload';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { CaptionId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { FilmOrder } from '../making/film/film-order';
import type { ServedSound } from '../playback/served-sound';
import { api } from '../server/api';
import { atSchool } from '../testing/at-school';
import { editionOf, madeLesson, madeTake } from '../testing/made-lesson';
import { profileWorkers } from '../testing/profile-workers';
import { useFilms } from './films';
import { useLesson } from './lesson';
import { useTakeSounds } from './take-sounds';
import { useVoices } from './voices';

vi.mock('../workers/sound/profile.worker?worker', async () => ({
  default: (await import('../testing/profile-workers')).ProfileWorkerStandIn,
}));
const { ordered, can } = vi.hoisted(() => ({ ordered: [] as [FilmOrder, ServedSound | null][], can: { make: true } }));
vi.mock('../making/film/can-encode', () => ({
  NO_ENCODER: 'This browser cannot make videos.',
  encoderOf: async () => (can.make ? 'browser' : null),
}));
vi.mock('../making/film/film-orders', () => ({
  useFilmOrders: () => ({ order: async (...one: [FilmOrder, ServedSound | null]) => void ordered.push(one) }),
}));

const [PAGE, TAKE] = ['page-of-knots' as PageId, 'take-of-knots' as TakeId];
const LENGTH = 480_000;

beforeEach(async () => {
  ordered.length = 0;
  can.make = true;
  vi.stubGlobal('location', { href: 'http://school.example/lesson/lesson-of-knots' });
  vi.stubGlobal('navigator', { hardwareConcurrency: 2 });
  vi.spyOn(api, 'takeMarks').mockResolvedValue(encodeMarks([]));
  await atSchool(async () => ({ to: 'other' }));
  const { peaks, energies } = NOTHING_HEARD;
  profileWorkers.answer = () => ({ profile: { peaks, energies, noise: energies, speech: [] } });
  const take = madeTake(TAKE, { lengthSamples: LENGTH, hasSound: true, sound: 'b'.repeat(64) });
  const spans = [{ take: TAKE, fromSamples: 0, toSamples: LENGTH / 2 }];
  const edition = {
    ...editionOf([{ kind: 'play', take: TAKE, fromSamples: 0, toSamples: LENGTH, pace: 1 }]),
    chapters: [{ take: TAKE, atSamples: LENGTH / 2, title: 'The bowline' }],
    captions: [
      { id: 'caption-said' as CaptionId, text: 'Out of the hole', spans },
      { id: 'caption-empty' as CaptionId, text: '', spans },
    ],
  };
  await useLesson().accept(madeLesson([PAGE], { takes: [take], edition }));
});

const whole = () => ({
  of: 'film',
  title: 'Knots: “bowline”',
  programme: useLesson().programme,
  timeline: useLesson().timeline!,
});

describe('a film that is ordered', () => {
  it('is of all there is now: pages, chapters, captions that say something, and how it sounds', async () => {
    expect(await useFilms().order(whole())).toBe(true);
    const [[order, sound]] = ordered;
    expect(order).toMatchObject({
      teacher: 'teacher-one',
      lesson: 'lesson-of-knots',
      name: 'Knots “bowline”.mp4',
      settings: USUAL_FILM,
      chapters: [
        { title: 'Page 1', startSeconds: 0 },
        { title: 'The bowline', startSeconds: 5 },
      ],
      cues: [{ text: 'Out of the hole' }],
      sound: { voices: new Map([[TAKE, `http://school.example/api/takes/${TAKE}/sound`]]) },
    });
    expect(decodePayload(order.payload).trail.lengthSamples).toBe(LENGTH);
    expect(order.sound!.quieter.ceilingDb).toBeLessThan(order.sound!.mastering.ceilingDb!);
    expect(sound!.alike).toBe(order.sound!.alike);
    expect(useFilms().isOrdering).toBe(false);
  });

  it('takes a voice along that is only on this device, for its address ends with the lesson', async () => {
    vi.stubGlobal('URL', Object.assign(URL, { createObjectURL: () => 'blob:voice', revokeObjectURL: () => {} }));
    const voice = new Blob(['voice']);
    useTakeSounds().keep(TAKE, voice);
    await useFilms().order(whole());
    expect(ordered[0][0].sound!.voices.get(TAKE)).toBe(voice);
  });

  it('sounds as it was chosen then, whatever is chosen while it is made', async () => {
    await useFilms().order(whole());
    const [[, sound]] = ordered;
    const { sound: chosen } = useLesson().edition;
    await useLesson().accept(
      madeLesson([PAGE], {
        takes: useLesson().document!.takes,
        edition: { ...useLesson().edition, sound: { ...chosen, isEvened: !chosen.isEvened } },
        edit: { n: 2, madeAt: '2026-11-24T09:00:00.000Z' },
      }),
    );
    expect(sound!.masteringUnder().ceilingDb === null).toBe(!chosen.isEvened);
  });

  it('is not begun where nobody can make one, and is told when something goes wrong', async () => {
    can.make = false;
    expect(await useFilms().order(whole())).toBe(false);
    expect(useFilms().problem).toMatch(/cannot make videos/);
    can.make = true;
    vi.spyOn(useVoices(), 'served').mockRejectedValue(new Error('The voice cannot be heard.'));
    expect(await useFilms().order(whole())).toBe(false);
    expect([useFilms().problem, useFilms().isOrdering, ordered]).toEqual(['The voice cannot be heard.', false, []]);
  });

  it('is as the last one was, where what was kept can be read', async () => {
    useFilms().settings = { ...USUAL_FILM, sizePx: 1080 };
    await useFilms().order(whole());
    expect(ordered[0][0].settings.sizePx).toBe(1080);
  });
});
