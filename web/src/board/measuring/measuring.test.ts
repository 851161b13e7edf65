import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
import { describe, expect, it } from 'vitest';
import { useDesk } from '../../lesson/desk';
import { useMeasuring } from './measuring';

function measuring() {
  const desk = useDesk();
  desk.lay(() => sceneOf([{ page: wideSquaredPage('page-one' as PageId), pieces: [] }]));
  const sent: Change[] = [];
  desk.onCommit = ({ changes }) => sent.push(...changes);
  return { desk, sent, measuring: useMeasuring() };
}

describe('measuring tools', () => {
  it('lie on the page for viewers, and laying them is no step to undo', () => {
    const { desk, sent, measuring: tools } = measuring();
    tools.toggle('ruler');
    expect(shownPage(desk.scene!).pieces).toHaveLength(1);
    expect(desk.canUndo).toBe(false);
    tools.toggle('ruler');
    expect(tools.lying).toEqual([]);
    expect(sent.map(({ kind }) => kind)).toEqual(['place', 'lift']);
  });

  it('kept out of the recording lie in this window alone, and still lead the pen', () => {
    const { desk, sent, measuring: tools } = measuring();
    tools.areForViewers = false;
    tools.toggle('ruler');
    expect(sent).toEqual([]);
    expect(shownPage(desk.scene!).pieces).toEqual([]);
    const [{ frame }] = tools.lying;
    const lead = tools.leadFrom({ xPt: frame.xPt, yPt: frame.yPt + frame.heightPt / 2 + 3 }, 10)!;
    expect(lead({ xPt: frame.xPt + 50, yPt: frame.yPt + 400 }).yPt).toBeCloseTo(frame.yPt + frame.heightPt / 2, 6);
    expect(tools.reading?.text).toBe('1.76 cm');
    expect(tools.leadFrom({ xPt: 5, yPt: 5 }, 10)).toBeNull();
  });

  it('are shown and kept out as they lie', () => {
    const { desk, measuring: tools } = measuring();
    tools.toggle('protractor');
    tools.put({ ...tools.lying[0], frame: { ...tools.lying[0].frame, xPt: 200 } });
    tools.areForViewers = false;
    expect(shownPage(desk.scene!).pieces).toEqual([]);
    expect(tools.lying.map(({ frame }) => frame.xPt)).toEqual([200]);
    tools.areForViewers = true;
    expect(shownPage(desk.scene!).pieces).toHaveLength(1);
    expect(tools.hidden).toEqual([]);
  });

  it('read in the scale of their page once it is set, which can be undone', () => {
    const { desk, measuring: tools } = measuring();
    tools.toggle('ruler');
    tools.setScale({ perCm: 0.5, unit: 'nm' });
    expect(shownPage(desk.scene!).page.scale).toEqual({ perCm: 0.5, unit: 'nm' });
    expect(tools.lying[0].content.scale.unit).toBe('nm');
    desk.undo();
    expect(tools.lying[0].content.scale).toEqual({ perCm: 1, unit: 'cm' });
    tools.areForViewers = false;
    tools.setScale({ perCm: 2, unit: 'm' });
    expect(tools.hidden.map(({ content }) => content.scale.unit)).toEqual(['m']);
    desk.undo();
    expect(tools.hidden.map(({ content }) => content.scale.unit)).toEqual(['cm']);
  });
});
