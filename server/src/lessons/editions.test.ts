import { rangeOf } from '@kite-trail/core/trail/programme';
import type { EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Watch } from '@kite-trail/core/contract/watch';
import type { CaptionId, PieceId, PromptId, TakeId } from '@kite-trail/core/lesson/ids';
import { readTimedText } from '@kite-trail/core/formats/timed-text';
import { cut, silenced, trim } from '@kite-trail/core/trail/edit';
import type { Edition } from '@kite-trail/core/trail/edition';
import type { Prompt } from '@kite-trail/core/trail/prompts';
import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { json, messageOf, part, testSchool, trimBody } from '../testing';

const SECOND = 48_000;

const { call } = testSchool();
let lesson: LessonDocument;
let takes = 0;
beforeEach(async () => {
  lesson = await json(call('POST', '/lessons', { title: 'Reefing' }));
  const take = `take-100${takes++}`;
  await call('POST', `/lessons/${lesson.id}/takes`, { id: take, hasSound: true });
  await call('PUT', `/takes/${take}/parts/0`, part(10 * SECOND));
  lesson = await json(call('POST', `/takes/${take}/end`, { parts: 1 }));
});

const path = (rest = '') => `/lessons/${lesson.id}/edition${rest}`;
const edit = (edition: Edition, from: EditState['edit']) => json<EditState>(call('PUT', path(), { from, edition }));
const step = (which: 'undo' | 'redo') => json<EditState>(call('POST', path(`/${which}`)));
const captioned = (edition: Edition, text: string): Edition => ({
  ...edition,
  captions: [
    {
      id: 'caption-one' as CaptionId,
      text,
      spans: [{ take: edition.programme[0].take, fromSamples: SECOND, toSamples: 3 * SECOND }],
    },
  ],
});

const prompt = (atSamples: number, question: string): Prompt => ({
  id: `prompt-${atSamples}` as PromptId,
  take: lesson.edition.programme[0].take,
  ...{ atSamples, question, answer: 'To windward.' },
});

describe('editing', () => {
  it('puts editions in force, undoes and redoes them, and refuses to play what was never recorded', async () => {
    const trimmed = trimBody(lesson, SECOND, 5 * SECOND);
    const edited = await edit(trimmed.edition, trimmed.from);
    expect(edited.edition).toEqual(trimmed.edition);
    expect(edited.canUndoEdit).toBe(true);
    const undone = await step('undo');
    expect(undone.edition).toEqual(lesson.edition);
    expect(undone.canRedoEdit).toBe(true);
    expect((await call('POST', path('/undo'))).status).toBe(409);
    expect((await step('redo')).edition).toEqual(trimmed.edition);
    const beyond = [{ ...lesson.edition.programme[0], toSamples: 480_001 }];
    const refused = await call('PUT', path(), { from: edited.edit, edition: { ...lesson.edition, programme: beyond } });
    expect(refused.status).toBe(400);
    expect(await messageOf(refused)).toMatch(/never recorded/);
  });

  it('is restored byte for byte by undo, however often, and whatever was edited', async () => {
    const { programme } = lesson.edition;
    const one = fc.record({
      ends: fc.tuple(fc.nat(9 * SECOND), fc.nat(9 * SECOND)),
      do: fc.constantFrom('cut', 'silence', 'caption', 'prompt', 'colour', 'sound'),
      text: fc.string({ maxLength: 30 }),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(one, { minLength: 1, maxLength: 5 }), async (edits) => {
        const start = await json<LessonDocument>(call('GET', `/lessons/${lesson.id}`));
        const seen: string[] = [JSON.stringify(start.edition)];
        let now: EditState = start;
        for (const { ends, do: what, text } of edits) {
          const stretch = { fromSamples: Math.min(...ends), toSamples: Math.max(...ends) };
          const { edition } = now;
          const next: Edition = {
            cut: { ...edition, programme: cut(programme, stretch, 'keep') },
            silence: { ...edition, programme: silenced(programme, stretch) },
            caption: captioned({ ...edition, programme }, text),
            prompt: { ...edition, prompts: [prompt(stretch.toSamples, text.trim() || 'Why?')] },
            colour: { ...edition, inkEdits: [{ stroke: 'a' as PieceId, color: '#12776f' }] },
            sound: { ...edition, sound: { isEvened: false, isQuieted: text.length > 4 } },
          }[what];
          now = await edit(next, now.edit);
          seen.push(JSON.stringify(now.edition));
        }
        for (const before of seen.slice(0, -1).reverse())
          expect(JSON.stringify((await step('undo')).edition)).toBe(before);
        for (const after of seen.slice(1)) expect(JSON.stringify((await step('redo')).edition)).toBe(after);
      }),
      { numRuns: 8 },
    );
  });

  it('from what another window has edited meanwhile is refused, and changes nothing', async () => {
    const { from, edition } = trimBody(lesson, 0, 5 * SECOND);
    const first = await edit(edition, from);
    const late = await call('PUT', path(), { from, edition: lesson.edition });
    expect(late.status).toBe(409);
    expect(await messageOf(late)).toMatch(/another window/);
    // Not even where an undo has brought the same number about.
    await step('undo');
    const again = await edit(edition, (await json<LessonDocument>(call('GET', `/lessons/${lesson.id}`))).edit);
    expect([again.edit.n, again.edit.madeAt === first.edit.madeAt]).toEqual([first.edit.n, false]);
    expect((await call('PUT', path(), { from: first.edit, edition: lesson.edition })).status).toBe(409);
  });

  it('keeps ink, chapters and captions when a new take ends', async () => {
    await edit(captioned(lesson.edition, 'Ease the sheet'), lesson.edit);
    await call('POST', `/lessons/${lesson.id}/takes`, { id: 'take-after', hasSound: true });
    await call('PUT', '/takes/take-after/parts/0', part(2 * SECOND));
    const after = await json<LessonDocument>(call('POST', '/takes/take-after/end', { parts: 1 }));
    expect(after.edition.captions.map(({ text }) => text)).toEqual(['Ease the sheet']);
    expect(after.edition.programme).toHaveLength(2);
  });

  it('takes no caption that is longer than a page', async () => {
    const refused = await call('PUT', path(), {
      from: lesson.edit,
      edition: captioned(lesson.edition, 'a'.repeat(1001)),
    });
    expect(refused.status).toBe(400);
    expect(await messageOf(refused)).toMatch(/1,000 letters/);
  });
});

describe('versions', () => {
  it('are kept by name, survive later edits, and can be put in force and dropped', async () => {
    const kept = await json<LessonDocument>(call('POST', `/lessons/${lesson.id}/versions`, { name: 'Long one' }));
    const { from, edition } = trimBody(lesson, 0, 2 * SECOND);
    await edit(edition, from);
    await step('undo');
    await edit({ ...edition, programme: trim(lesson.edition.programme, 0, SECOND) }, kept.edit);
    const [version] = kept.versions;
    expect(version).toMatchObject({ name: 'Long one', lengthSamples: 10 * SECOND });
    const used = await json<LessonDocument>(call('POST', `/lessons/${lesson.id}/versions/${version.id}/use`));
    expect(used.edition).toEqual(lesson.edition);
    expect(rangeOf((await step('undo')).edition.programme[0]).toSamples).toBe(SECOND);
    const dropped = await json<LessonDocument>(call('DELETE', `/lessons/${lesson.id}/versions/${version.id}`));
    expect(dropped.versions).toEqual([]);
    expect((await call('POST', `/lessons/${lesson.id}/versions/${version.id}/use`)).status).toBe(404);
    expect((await call('POST', `/lessons/${lesson.id}/versions`, { name: ' ' })).status).toBe(400);
  });
});

describe('what is shared', () => {
  const share = async (n: number) => json<LessonDocument>(call('POST', `/lessons/${lesson.id}/publications/${n}`));
  const watched = (token: string, rest = '') => call('GET', `/watch/${token}${rest}`);

  it('has chapters, and captions as WebVTT, where they are heard', async () => {
    const take = lesson.edition.programme[0].take as TakeId;
    const named = { take, atSamples: 4 * SECOND, title: 'The second reef' };
    const both = { ...captioned(lesson.edition, 'Ease &\0 haul'), chapters: [named] };
    const programme = cut(both.programme, { fromSamples: 0, toSamples: SECOND }, 'keep');
    await edit({ ...both, programme }, lesson.edit);
    const { token } = (await share(2)).link!;
    const about = await json<Watch>(watched(token));
    expect(about.chapters).toEqual([
      { startSamples: 0, title: 'Page 1' },
      { startSamples: 3 * SECOND, title: 'The second reef' },
    ]);
    const captions = await watched(token, `/publications/${about.publication}/captions`);
    expect(captions.headers.get('content-type')).toMatch(/^text\/vtt/);
    expect(readTimedText(await captions.text())).toEqual([{ startMs: 0, endMs: 2000, text: 'Ease & haul' }]);
  });

  it('halts with questions where they play, and nowhere else', async () => {
    const prompts = [
      prompt(8 * SECOND, 'Which reef next?'),
      prompt(SECOND / 2, 'Cut out'),
      prompt(10 * SECOND, 'Now?'),
    ];
    const programme = cut(lesson.edition.programme, { fromSamples: 0, toSamples: SECOND }, 'keep');
    await edit({ ...lesson.edition, programme, prompts }, lesson.edit);
    const { token } = (await share(2)).link!;
    const asked = (await json<Watch>(watched(token))).prompts;
    expect(asked.map(({ atSamples, question }) => [atSamples / SECOND, question])).toEqual([
      [7, 'Which reef next?'],
      [9, 'Now?'],
    ]);
    expect(asked[0].answer).toBe('To windward.');
    const silent = { ...prompts[0], question: ' ' };
    const now = await json<LessonDocument>(call('GET', `/lessons/${lesson.id}`));
    const refused = await call('PUT', path(), { from: now.edit, edition: { ...now.edition, prompts: [silent] } });
    expect([refused.status, await messageOf(refused)]).toEqual([400, expect.stringMatching(/Ask something/)]);
  });

  it('is not called up to date by an edit that came to have the same number', async () => {
    const { from, edition } = trimBody(lesson, 0, 5 * SECOND);
    await edit(edition, from);
    expect((await share(2)).link!.upToDate).toBe(true);
    const undone = await step('undo');
    expect(undone.link!.upToDate).toBe(false);
    expect((await edit(captioned(edition, 'Haul'), undone.edit)).link!.upToDate).toBe(false);
  });
});
