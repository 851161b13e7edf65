import { LessonScope, useOtherwise } from './lesson-scope';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { storable } from '@kite-trail/core/lesson/picture';
import { NEW, WHOLE, type Picture } from '@kite-trail/core/lesson/piece';
import { applyChange, sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
import { base, change } from '@kite-trail/core/testing/arbitraries';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { useDesk } from './desk';

const [FIRST, SECOND] = ['page-one', 'page-two'] as PageId[];

const picture = (xPt: number): Picture =>
  storable({
    ...NEW,
    kind: 'picture',
    id: 'chart' as PieceId,
    z: 1,
    asset: 'a'.repeat(64) as never,
    frame: { xPt, yPt: 100, widthPt: 80, heightPt: 40, turnRad: 0, mirrored: false },
    crop: WHOLE,
    cutOut: new Float32Array(),
  });

function freshDesk() {
  const desk = useDesk();
  const sent: Change[] = [];
  desk.lay(() => sceneOf([{ page: wideSquaredPage(FIRST), pieces: [] }]));
  desk.onCommit = ({ changes }) => sent.push(...changes);
  return { desk, sent };
}

describe('the desk', () => {
  it('is laid with a scene that is worked out when it is looked at, once', () => {
    const desk = useDesk();
    let workedOut = 0;
    desk.lay(() => {
      workedOut++;
      return base;
    });
    expect(workedOut).toBe(0);
    expect([desk.scene, desk.scene?.shown]).toEqual([base, base.shown]);
    expect(workedOut).toBe(1);
  });

  it('undoes and redoes any changes, and passes each of them on', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 25 }), (changes) => {
        useOtherwise(new LessonScope());
        const desk = useDesk();
        let replayed = base;
        desk.lay(() => base);
        desk.onCommit = ({ changes }) => void (replayed = changes.reduce(applyChange, replayed));
        // Placing what is partly there already is taken back whole; the interface never does that.
        for (const one of changes) if (one.kind !== 'place' && one.kind !== 'turn') desk.change(one);
        const contents = (scene = desk.scene!) =>
          scene.pages.map(({ page, pieces }) => [page, pieces.map(({ id }) => id).sort()]);
        const end = contents();
        let steps = 0;
        while (desk.canUndo) {
          desk.undo();
          steps++;
        }
        expect(contents()).toEqual(contents(base));
        for (; steps > 0; steps--) desk.redo();
        expect(contents()).toEqual(end);
        expect(contents(replayed)).toEqual(end);
      }),
      { numRuns: 60 },
    );
  });

  it('takes a drag back as one step, to where it began', () => {
    const { desk, sent } = freshDesk();
    desk.change({ kind: 'place', page: FIRST, pieces: [picture(100)] });
    desk.beginGesture();
    for (let x = 110; x <= 200; x += 10) desk.change({ kind: 'alter', page: FIRST, pieces: [picture(x)] });
    desk.endGesture();
    expect(sent.filter(({ kind }) => kind === 'alter')).toHaveLength(10);
    expect(desk.history.undo).toHaveLength(2);
    expect(desk.history.undo[1]).toHaveLength(1);
    desk.undo();
    expect(shownPage(desk.scene!).pieces).toEqual([picture(100)]);
    desk.redo();
    expect(shownPage(desk.scene!).pieces).toEqual([picture(200)]);
  });

  it('brings a deleted page back with all that lay on it, and shows it', () => {
    const { desk } = freshDesk();
    desk.changeTogether([
      { kind: 'add-page', page: wideSquaredPage(SECOND), after: FIRST },
      { kind: 'place', page: SECOND, pieces: [picture(50)] },
      { kind: 'turn', page: SECOND },
    ]);
    desk.change({ kind: 'drop-page', page: SECOND });
    expect(desk.scene!.shown).toBe(FIRST);
    desk.undo();
    expect(desk.scene!.shown).toBe(SECOND);
    expect(shownPage(desk.scene!).pieces).toEqual([picture(50)]);
    desk.undo();
    expect(desk.scene!.pages).toHaveLength(1);
  });

  it('makes nothing of what cannot be kept, and says why until something can', () => {
    const { desk, sent } = freshDesk();
    const far = { ...picture(1), frame: { ...picture(1).frame, widthPt: 1e9 } };
    desk.change({ kind: 'place', page: FIRST, pieces: [far] });
    expect(sent).toEqual([]);
    expect(desk.problem).not.toBeNull();
    desk.change({ kind: 'place', page: FIRST, pieces: [picture(1)] });
    expect(desk.problem).toBeNull();
  });

  it('takes a step back whole, or not at all where a part of it cannot be kept any more', () => {
    const { desk, sent } = freshDesk();
    const far = { ...picture(1), frame: { ...picture(1).frame, widthPt: 1e9 } };
    const step: Change[] = [
      { kind: 'place', page: FIRST, pieces: [picture(1)] },
      { kind: 'alter', page: FIRST, pieces: [far] },
    ];
    const history = { undo: [step], redo: [] };
    desk.lay(() => sceneOf([{ page: wideSquaredPage(FIRST), pieces: [] }]), history);
    desk.undo();
    expect(sent).toEqual([]);
    expect(desk.history).toEqual(history);
    expect(desk.problem).not.toBeNull();
  });

  it('forgets what could be redone once something new is done', () => {
    const { desk } = freshDesk();
    desk.change({ kind: 'place', page: FIRST, pieces: [picture(1)] });
    desk.undo();
    expect(desk.canRedo).toBe(true);
    desk.change({ kind: 'place', page: FIRST, pieces: [picture(2)] });
    expect(desk.canRedo).toBe(false);
  });
});
