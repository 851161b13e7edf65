import { NOTHING_DRAWN, type Drawing } from '@kite-trail/core/drawing/drawing';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import type { TextPiece } from '@kite-trail/core/lesson/piece';
import { sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { useComposing } from './composing';
import { useDesk } from '../../lesson/desk';

type Set = { drawing: Drawing; missing: string[] };

/** Texts that wait to be set: the test says when each one is. */
const { waiting } = vi.hoisted(() => ({ waiting: [] as ((set: Set) => void)[] }));
vi.mock('../../typeset/typesetter', () => ({
  typesetter: { text: () => new Promise<Set>((settle) => waiting.push(settle)) },
}));
vi.mock('../../record/recording', () => ({ useRecording: () => ({ interrupt: () => undefined }) }));

const drawn = (): Set => ({ drawing: { ...NOTHING_DRAWN, widthPt: 60, heightPt: 20 }, missing: [] });
const setNext = () => waiting.shift()!(drawn());

function composed() {
  const desk = useDesk();
  desk.lay(() => sceneOf([{ page: wideSquaredPage('page-one' as PageId), pieces: [] }]));
  const texts = () =>
    shownPage(desk.scene!).pieces.flatMap((piece) => (piece.kind === 'text' ? [piece.content.text] : []));
  return { desk, composing: useComposing(), texts };
}

afterEach(() => {
  waiting.length = 0;
});

describe('text', () => {
  it('is a step to undo of its own, also if it was begun while the one before was still being set', async () => {
    const { desk, composing, texts } = composed();
    composing.typeAt({ xPt: 100, yPt: 100 });
    void composing.type({ text: 'first' });
    composing.typeAt({ xPt: 100, yPt: 300 });
    void composing.type({ text: 'second' });
    await vi.waitFor(() => expect(waiting).toHaveLength(2));
    // The second is set before the first.
    waiting.pop()!(drawn());
    setNext();
    composing.endTyping();
    await vi.waitFor(() => expect(texts()).toEqual(['first', 'second']));
    await vi.waitFor(() => expect(desk.canUndo).toBe(true));
    desk.undo();
    expect(texts()).toEqual(['first']);
    desk.undo();
    expect(texts()).toEqual([]);
  });

  it('is set as it was last typed, whichever of its settings comes last', async () => {
    const { composing, texts } = composed();
    composing.typeAt({ xPt: 100, yPt: 100 });
    void composing.type({ text: 'knot' });
    void composing.type({ text: 'knots' });
    await vi.waitFor(() => expect(waiting).toHaveLength(2));
    waiting.pop()!(drawn());
    setNext();
    composing.endTyping();
    await vi.waitFor(() => expect(texts()).toEqual(['knots']));
  });

  it('is wrapped at each width of a drag, and never goes back to an earlier one', async () => {
    const { desk, composing } = composed();
    composing.typeAt({ xPt: 100, yPt: 100 });
    void composing.type({ text: 'under the keel' });
    await vi.waitFor(() => expect(waiting).toHaveLength(1));
    setNext();
    composing.endTyping();
    const piece = () => shownPage(desk.scene!).pieces[0] as TextPiece;
    await vi.waitFor(() => expect(piece()).toBeDefined());
    const held = piece();
    const widths = [300, 200, 100].map((widthPt) => composing.wrap(held, widthPt, 'left'));
    setNext();
    await widths[0];
    expect(piece().content.wrapPt).toBe(300);
    // The last is set before the one in the middle.
    waiting.pop()!(drawn());
    await widths[2];
    setNext();
    await widths[1];
    expect(piece().content.wrapPt).toBe(100);
  });

  it('of no letters is no text', async () => {
    const { composing, texts } = composed();
    composing.typeAt({ xPt: 100, yPt: 100 });
    void composing.type({ text: 'k' });
    await vi.waitFor(() => expect(waiting).toHaveLength(1));
    setNext();
    await vi.waitFor(() => expect(texts()).toEqual(['k']));
    void composing.type({ text: '' });
    await vi.waitFor(() => expect(waiting).toHaveLength(1));
    setNext();
    composing.endTyping();
    await vi.waitFor(() => expect(texts()).toEqual([]));
  });
});
