import { isSilenced, playsAsRecorded } from '@kite-trail/core/trail/programme';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { PageId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { newStroke } from '@kite-trail/core/lesson/piece';
import type { Edition } from '@kite-trail/core/trail/edition';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '../../server/api';
import { atSchool } from '../../testing/at-school';
import { profileWorkers } from '../../testing/profile-workers';
import { useCaptions } from '../../trim/panels/captions';
import { useChapters } from '../../trim/panels/chapters';
import { usePrompts } from '../../trim/panels/prompts';
import { useEditing } from './editing';
import { useInkChoice } from '../../trim/ink/ink-choice';
import { useLesson } from '../lesson';
import { editionOf, madeLesson, madeTake } from '../../testing/made-lesson';
import { useQuietStretches } from '../../trim/panels/quiet-stretches';
import { useStretch } from '../../trail/stretch';
import { useTrimming } from '../../trim/trimming';
import { useVoices } from '../voices';

vi.mock('../../workers/sound/profile.worker?worker', async () => ({
  default: (await import('../../testing/profile-workers')).ProfileWorkerStandIn,
}));

const SECOND = 48_000;
const TAKE = 'take-of-knots' as TakeId;
const PAGES = ['page-one-of-us', 'page-two-of-us'] as PageId[];

const ink = (name: string, atSeconds: number, lengthMs: number, page = PAGES[0]): Mark => ({
  kind: 'ink',
  page,
  atSamples: atSeconds * SECOND,
  stroke: newStroke({
    id: name as PieceId,
    z: atSeconds + 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
    points: InkPoints.from([
      { xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 },
      { xPt: 90, yPt: 40, pressure: 0.5, sinceMs: lengthMs },
    ]),
  }),
});

/** Ten seconds: spoken in the first and from the eighth on, with a bend at 1, a hitch at 4 to 6, and the next page at 8. */
const MARKS: Mark[] = [
  ink('bend', 1, 500),
  ink('hitch', 4, 2000),
  { kind: 'turn', page: PAGES[1], atSamples: 8 * SECOND },
  ink('splice', 9, 500, PAGES[1]),
];
const SPEECH = [
  { fromSamples: 0, toSamples: SECOND },
  { fromSamples: 8 * SECOND, toSamples: 10 * SECOND },
];

const lessonNow = (edition: Edition, n = 1) =>
  madeLesson(PAGES, { takes: [madeTake(TAKE)], edition, edit: { n, madeAt: `edit ${n}` } });

beforeEach(async () => {
  vi.spyOn(api, 'takeMarks').mockResolvedValue(encodeMarks(MARKS));
  await atSchool(async ({ head }, edition) => {
    return { to: 'step', state: lessonNow(edition as Edition, 'from' in head ? head.from.n + 1 : 0) };
  });
  await useLesson().accept(
    lessonNow(editionOf([{ kind: 'play', take: TAKE, fromSamples: 0, toSamples: 10 * SECOND, pace: 1 }])),
  );
  const { peaks, energies } = NOTHING_HEARD;
  profileWorkers.answer = () => ({ profile: { peaks, energies, noise: energies, speech: SPEECH } });
  useVoices().know(TAKE, NOTHING_HEARD);
  await useVoices().served(useLesson().programme);
});

const seconds = () => useLesson().lengthSamples / SECOND;
const choose = (from: number, to: number) => (useStretch().ends = { from: from * SECOND, to: to * SECOND });
const strokesAt = (at: number) =>
  useLesson()
    .timeline!.at(at * SECOND)
    .scene.pages.flatMap(({ pieces }) => pieces.map(({ id }) => id));

describe('the chosen stretch', () => {
  it('is cut with its ink or without, and playing goes on where it was', () => {
    choose(3, 7);
    expect(useTrimming().cutOut('keep')).toBe(3 * SECOND);
    expect([seconds(), strokesAt(3)]).toEqual([6, ['bend', 'hitch']]);
    // In another programme the same times mean something else.
    expect(useTrimming().chosen).toBeNull();
    // Whoever presses twice has cut once: the tools of the stretch are seen a moment longer than it is.
    expect(useTrimming().cutOut('keep')).toBeNull();
    expect(seconds()).toBe(6);
    choose(0, 2);
    useTrimming().cutOut('drop');
    expect([seconds(), strokesAt(1.5)]).toEqual([4, ['hitch']]);
  });

  it('is silenced and sounded again, repeated, quickened, moved, and kept alone', () => {
    const trimming = useTrimming();
    choose(0, 1);
    trimming.silence();
    choose(0, 1);
    expect(trimming.isSilenced).toBe(true);
    trimming.silence();
    expect(useLesson().programme.some(isSilenced)).toBe(false);
    choose(0, 1);
    expect(trimming.repeat()).toBe(SECOND);
    expect(seconds()).toBe(11);
    choose(4, 8);
    trimming.quicken(4);
    expect(seconds()).toBe(8);
    choose(7, 8);
    expect(trimming.moveTo(0)).toBe(0);
    expect(useLesson().programme.filter(playsAsRecorded)[0].fromSamples).toBe(9 * SECOND);
    expect(trimming.keepOnly({ fromSamples: SECOND, toSamples: 4 * SECOND })).toBe(0);
    expect(seconds()).toBe(3);
    choose(1, 3);
    expect(trimming.keepChosen()).toBe(0);
    expect([seconds(), trimming.keepChosen()]).toEqual([2, null]);
  });

  it('is the part between two splices, and one goes along by strokes, pauses, pages, chapters and frames', () => {
    const trimming = useTrimming();
    trimming.divide(2 * SECOND);
    trimming.divide(6 * SECOND);
    trimming.choosePart(3 * SECOND);
    expect(trimming.chosen).toEqual({ fromSamples: 2 * SECOND, toSamples: 6 * SECOND });
    const from = 5 * SECOND;
    expect((['stroke', 'pause', 'page', 'chapter'] as const).map((by) => trimming.step(by, from, 1) / SECOND)).toEqual([
      9, 6, 8, 8,
    ]);
    expect((['stroke', 'pause', 'page', 'chapter'] as const).map((by) => trimming.step(by, from, -1) / SECOND)).toEqual(
      [4, 1.5, 0, 0],
    );
    expect(trimming.step('frame', from + 10, -1)).toBe(from - 1600);
    expect(trimming.step('frame', 10 * SECOND, 1)).toBe(10 * SECOND);
  });
});

describe('stretches in which nobody speaks', () => {
  it('are listed with what they would save, and closed in one edit but for those left out', () => {
    const quiet = useQuietStretches();
    quiet.leastSeconds = 1;
    expect(quiet.listed.map(({ fromSamples, savesSamples }) => [fromSamples / SECOND, savesSamples / SECOND])).toEqual([
      [1.5, 1.9],
      [6, 1.4],
    ]);
    quiet.exclude(quiet.listed[0], true);
    expect(quiet.savesSamples).toBe(1.4 * SECOND);
    expect(quiet.apply()).toBe(1.4 * SECOND);
    expect(seconds()).toBeCloseTo(8.6);
    expect(quiet.listed.every(({ isExcluded }) => !isExcluded)).toBe(true);
    useEditing().undo();
    expect(seconds()).toBe(10);
  });

  it('are quickened where something is written in them', () => {
    const quiet = useQuietStretches();
    quiet.sort = 'writing';
    quiet.pace = 8;
    expect(quiet.listed.map(({ fromSamples, toSamples }) => [fromSamples / SECOND, toSamples / SECOND])).toEqual([
      [1, 6],
    ]);
    expect(quiet.apply()).toBeCloseTo((5 * SECOND * 7) / 8, -1);
    expect(quiet.listed).toEqual([]);
  });
});

describe('chosen ink', () => {
  it('is taken out, put back, recoloured, and begins earlier, later or from the start', () => {
    const choice = useInkChoice();
    expect(choice.choose('hitch' as PieceId, false)).toBe(4 * SECOND);
    expect(choice.choose('bend' as PieceId, true)).toBe(SECOND);
    choice.recolour('#b8371d');
    expect(choice.color).toBe('#b8371d');
    choice.moveTo(2 * SECOND);
    expect(choice.chosen.map(({ atSamples }) => atSamples / SECOND)).toEqual([5, 2]);
    choice.moveByMs(-500);
    expect(choice.chosen.map(({ atSamples }) => atSamples / SECOND)).toEqual([4.5, 1.5]);
    choice.fromStart();
    expect(strokesAt(0)).toEqual(expect.arrayContaining(['hitch', 'bend']));
    expect(choice.isEdited).toBe(true);
    choice.restore();
    expect([strokesAt(0.5), choice.isEdited]).toEqual([[], false]);
    choice.remove();
    expect(strokesAt(10)).toEqual(['splice']);
  });

  it('is given up when it is gone, and lights up with the stretch it was written in', async () => {
    const choice = useInkChoice();
    choose(0, 5);
    expect(choice.litIn(useLesson().timeline!.at(7 * SECOND)).map(({ id }) => id)).toEqual(['bend', 'hitch']);
    choice.choose('bend' as PieceId, false);
    expect(choice.litIn(useLesson().timeline!.at(7 * SECOND)).map(({ id }) => id)).toEqual(['bend']);
    useTrimming().cutOut('drop');
    await Promise.resolve();
    expect(choice.chosen).toEqual([]);
  });
});

describe('captions', () => {
  it('are laid out over speech where there are none, filled, and follow every edit', () => {
    const captions = useCaptions();
    captions.layOut();
    expect(captions.cues.map(({ startSamples }) => startSamples / SECOND)).toEqual([0, 8]);
    captions.setText(captions.cues[1].id, ' Over, under, and through. ');
    captions.layOut();
    expect(captions.cues).toHaveLength(2);
    expect(captions.filled.map(({ text }) => text)).toEqual(['Over, under, and through.']);
    choose(2, 6);
    useTrimming().cutOut('keep');
    expect(captions.filled[0].startSamples).toBe(4 * SECOND);
    captions.setTimes(captions.filled[0].id, 5 * SECOND, 6 * SECOND);
    expect(captions.filled[0]).toMatchObject({ startSamples: 5 * SECOND, endSamples: 6 * SECOND });
    captions.drop(captions.filled[0].id);
    expect(captions.filled).toEqual([]);
  });

  it('are spread from a script, written to files and read from them; what is no file of captions changes nothing', async () => {
    const captions = useCaptions();
    captions.spread('A bowline holds. It never slips, and is easily undone.');
    const spread = captions.filled.map(({ text }) => text);
    expect(spread.join(' ')).toBe('A bowline holds. It never slips, and is easily undone.');
    for (const format of ['vtt', 'srt'] as const) {
      const file = new File([captions.written(format)], `knots.${format}`);
      await captions.bring(file);
      expect(captions.problem).toBeNull();
      expect(captions.filled.map(({ text }) => text)).toEqual(spread);
    }
    await captions.bring(
      new File(['1\n00:00:01,000 --> 00:00:02,000\nHere.\n\n2\n00:01:00,000 --> 00:01:02,000\nGone.\n'], 'a.srt'),
    );
    expect(captions.problem).toMatch(/1 of 2 captions/);
    const { captions: before } = useLesson().edition;
    await captions.bring(new File(['Shopping: rope, tar.'], 'list.txt'));
    expect(captions.problem).not.toBeNull();
    expect(useLesson().edition.captions).toBe(before);
  });

  it('are not spread where nobody speaks', () => {
    choose(2, 6);
    useTrimming().keepOnly({ fromSamples: 2 * SECOND, toSamples: 6 * SECOND });
    const captions = useCaptions();
    captions.spread('Nobody says this.');
    expect(captions.problem).toMatch(/no speech/);
    expect(captions.cues).toEqual([]);
  });
});

describe('chapters', () => {
  const listed = () => useChapters().listed.map(({ title, startSamples }) => [title, startSamples / SECOND]);

  it('begin at page turns, and are named, added, moved and taken away', () => {
    const chapters = useChapters();
    expect(listed()).toEqual([
      ['Page 1', 0],
      ['Page 2', 8],
    ]);
    chapters.rename(chapters.listed[1], ' The splice ');
    chapters.add(3 * SECOND, 'The hitch');
    expect(listed()).toEqual([
      ['Page 1', 0],
      ['The hitch', 3],
      ['The splice', 8],
    ]);
    chapters.move(chapters.listed[2], 9 * SECOND);
    chapters.drop(chapters.listed[1]);
    chapters.rename(chapters.listed[0], '  ');
    expect(listed()).toEqual([
      ['Page 1', 0],
      ['The splice', 9],
    ]);
  });

  it('stay with what was recorded when the trail is edited', () => {
    const edition = (): Edition => useLesson().edition;
    useChapters().add(5 * SECOND, 'The hitch');
    const { chapters } = edition();
    choose(1, 4);
    useTrimming().cutOut('keep');
    expect(listed()).toContainEqual(['The hitch', 2]);
    expect(edition().chapters).toBe(chapters);
  });
});

describe('prompts', () => {
  const listed = () => usePrompts().listed.map(({ prompt, atSamples }) => [prompt.question, atSamples / SECOND]);

  it('are made where the playhead is, worded, moved and taken away, and stay where they are when the trail is edited', () => {
    const prompts = usePrompts();
    const late = prompts.add(8 * SECOND)!;
    const early = prompts.add(2 * SECOND)!;
    prompts.word(late, { question: ' Which knot? ', answer: ' A bowline. ' });
    prompts.word(early, { question: '  ' });
    expect(listed()).toEqual([
      ['What comes next?', 2],
      ['Which knot?', 8],
    ]);
    expect(useLesson().edition.prompts[0].answer).toBe('A bowline.');
    choose(4, 6);
    useTrimming().cutOut('keep');
    expect(listed()).toContainEqual(['Which knot?', 6]);
    prompts.move(early, 1 * SECOND);
    prompts.drop(late);
    expect(listed()).toEqual([['What comes next?', 1]]);
  });
});
