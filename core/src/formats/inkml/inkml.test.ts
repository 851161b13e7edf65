import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { InkPoints } from '../../ink/points';
import { PEN_KINDS } from '../../lesson/piece';
import { changeProblem } from '../../contract/change';
import type { PageId, PieceId } from '../../lesson/ids';
import { FormatError } from '../bytes';
import type { InkTrace } from './ink-file';
import { readInkMl } from './read-inkml';
import { strokesOfInk } from './strokes-of-ink';
import { inkPage as page } from '../../testing/ink-pages';
import { writeInkMl } from './write-inkml';

const ink = (content: string) => `<?xml version="1.0"?><ink xmlns="http://www.w3.org/2003/InkML">${content}</ink>`;
const only = (content: string) => {
  const { traces } = readInkMl(ink(content));
  expect(traces).toHaveLength(1);
  return traces[0];
};

describe('InkML of other origin', () => {
  it('may be no more than traces: X and Y, of a pixel each', () => {
    // As the Recommendation begins its own example (from memory).
    const { traces } = readInkMl(
      ink('<trace>10 0, 9 14, 8 28, 7 42, 6 56</trace><trace>130 155, 144 159, 158 160</trace>'),
    );
    expect(traces.map(({ xPt }) => xPt)).toEqual([
      [7.5, 6.75, 6, 5.25, 4.5],
      [97.5, 108, 118.5],
    ]);
    expect(traces[0]).toMatchObject({ atMs: null, canvas: null, brush: { color: null, widthPt: null } });
    expect(traces[0].sinceMs.every(Number.isNaN)).toBe(true);
  });

  it('says in what it is measured: by units, or by how fine its device is', () => {
    const format = (x: string) =>
      `<traceFormat><channel name="X" type="integer" ${x}/><channel name="Y" type="integer" units="mm"/></traceFormat>`;
    const at = (x: string, more = '') =>
      only(`<context><inkSource>${format(x)}${more}</inkSource></context><trace>254 25.4</trace>`);
    expect(at('units="mm"').xPt[0]).toBeCloseTo(720, 6);
    expect(at('units="mm"').yPt[0]).toBeCloseTo(72, 6);
    const fine = '<channelProperty channel="X" name="resolution" value="1000" units="1/cm"/>';
    expect(at('units="dev"', `<channelProperties>${fine}</channelProperties>`).xPt[0]).toBeCloseTo(7.2, 6);
    expect(at('').xPt[0]).toBeCloseTo(190.5, 6);
  });

  it('tells how the pen leant, or where it pointed, in degrees or radians', () => {
    const tilts = (channels: string, text: string) =>
      only(
        `<context><traceFormat><channel name="X"/><channel name="Y"/>${channels}</traceFormat></context>
        <trace>${text}</trace>`,
      ).tilt;
    const leant = '<channel name="OTx" units="deg"/><channel name="OTy" units="rad"/>';
    expect(tilts(leant, '0 0 30 0.5, 1 1 -12 0')).toEqual({ xDeg: [30, -12], yDeg: [expect.closeTo(28.6479, 3), 0] });
    // As W3C Pointer Events converts them: at 45° from the page and pointing to the right, it leans by 45° to the right.
    expect(tilts('<channel name="OA"/><channel name="OE"/>', '0 0 0 45')).toEqual({
      xDeg: [expect.closeTo(45)],
      yDeg: [0],
    });
    expect(tilts('<channel name="OTx"/>', '0 0 30')).toBeNull();
  });

  it('has force within its limits, or as strong as its strongest', () => {
    const force = (limits: string, text: string) =>
      only(
        `<context><traceFormat><channel name="X"/><channel name="Y"/><channel name="F" ${limits}/></traceFormat></context>
        <trace>${text}</trace>`,
      ).pressure;
    expect(force('min="100" max="300"', '0 0 100, 0 0 250, 0 0 400')).toEqual([0, 0.75, 1]);
    expect(force('', '0 0 1024, 0 0 512')).toEqual([1, 0.5]);
    expect(force('', '0 0 .25')).toEqual([0.25]);
    // What has limits is not measured by what has none.
    const channels = (limits: string) => `<channel name="X"/><channel name="Y"/><channel name="F" ${limits}/>`;
    const context = (limits: string) => `<context><traceFormat>${channels(limits)}</traceFormat></context>`;
    const { traces } = readInkMl(
      ink(`${context('max="4"')}<trace>0 0 2</trace>${context('')}<trace>0 0 512, 0 0 1024</trace>`),
    );
    expect(traces.map(({ pressure }) => pressure)).toEqual([[0.5], [0.5, 1]]);
  });

  it('has its own times: of points, of traces, of clocks', () => {
    const timed = `<definitions><timestamp xml:id="t" time="5000"/>
      <timestamp xml:id="later" timestampRef="#t" timeOffset="250"/>
      <context xml:id="c" timestampRef="#later"><traceFormat><channel name="X"/><channel name="Y"/>
      <channel name="T" units="s"/></traceFormat></context></definitions>`;
    const { traces } = readInkMl(
      ink(
        `${timed}<trace contextRef="#c" timeOffset="100">0 0 0, 1 1 .02</trace><trace contextRef="#c">0 0 2, 1 1 2.5</trace>`,
      ),
    );
    expect(traces.map(({ atMs }) => atMs)).toEqual([5350, 7250]);
    expect(traces.map(({ sinceMs }) => sinceMs)).toEqual([
      [0, 20],
      [0, 500],
    ]);
    expect(only('<trace duration="30" timeOffset="7">0 0, 1 1, 2 2, 3 3</trace>')).toMatchObject({
      atMs: 7,
      sinceMs: [0, 10, 20, 30],
    });
  });

  it('hands contexts and brushes on: to groups within groups, by reference, and to all that follows', () => {
    const { traces } = readInkMl(
      ink(`<definitions>
          <brush xml:id="fine"><brushProperty name="width" value="1" units="mm"/><brushProperty name="color" value="#FF0000"/></brush>
          <brush xml:id="faint" brushRef="#fine"><brushProperty name="transparency" value="51"/></brush>
          <canvas xml:id="first"/><canvas xml:id="second"/>
          <context xml:id="a" canvasRef="#first" brushRef="#fine"/><context xml:id="b" contextRef="#a" canvasRef="#second"/>
        </definitions>
        <traceGroup contextRef="#a"><trace>0 0</trace><traceGroup brushRef="#faint"><trace>1 1</trace></traceGroup></traceGroup>
        <context contextRef="#b"/><trace>2 2</trace>`),
    );
    expect(traces.map(({ canvas, brush }) => [canvas, brush.color, brush.opacity])).toEqual([
      ['first', '#ff0000', null],
      ['first', '#ff0000', 0.8],
      ['second', '#ff0000', null],
    ]);
    expect(traces[0].brush.widthPt).toBeCloseTo(72 / 25.4, 9);
  });

  it('is mapped to its canvas by a matrix', () => {
    const mapping = '<mapping type="affine"><affine>2 0 10, 0 3 -5</affine></mapping>';
    const trace = only(`<context><canvasTransform>${mapping}</canvasTransform></context><trace>1 1, 2 3</trace>`);
    expect(trace.xPt).toEqual([9, 10.5]);
    expect(trace.yPt).toEqual([-1.5, 3]);
  });

  it('is joined where a trace goes on, and left out where the pen is in the air', () => {
    const { traces } = readInkMl(
      ink(`<trace xml:id="a" continuation="begin" timeOffset="0" duration="10">0 0, 1 1</trace>
        <trace type="penUp">1 1, 5 5</trace>
        <trace xml:id="b" priorRef="#a" continuation="end" timeOffset="50" duration="10">2 2, 3 3</trace>`),
    );
    expect(traces.map(({ xPt, sinceMs }) => [xPt, sinceMs])).toEqual([
      [
        [0, 0.75, 1.5, 2.25],
        [0, 10, 50, 60],
      ],
    ]);
  });

  it.each([
    ['<html/>', /no InkML/],
    ['<ink', /not well-formed/],
    ['', /not well-formed/],
    ['<!DOCTYPE ink [<!ENTITY a "b">]><ink><trace>&a;</trace></ink>', /document type/],
    ['<ink><trace>&bomb;</trace></ink>', /not well-formed/],
    ['<ink><trace>a b</trace></ink>', /Point 1/],
    ['<ink><context><traceFormat><channel name="Z"/></traceFormat></context><trace>1</trace></ink>', /no X and Y/],
    [`${'<traceGroup>'.repeat(500)}`, /no InkML|nested|not well-formed/],
    [`<ink>${'<traceGroup>'.repeat(500)}`, /nested too deeply/],
    ['<ink><context xml:id="a" contextRef="#b"/><context xml:id="b" contextRef="#a"/></ink>', /circle/],
  ])('that is none is refused with what is wrong: %s', (source, why) => {
    expect(() => readInkMl(source)).toThrow(FormatError);
    expect(() => readInkMl(source)).toThrow(why);
  });

  it('may have 100,000 traces, and no more', () => {
    const many = (count: number) => ink('<trace>0 0, 1 1</trace>'.repeat(count));
    expect(readInkMl(many(100_000)).traces).toHaveLength(100_000);
    expect(() => readInkMl(many(100_001))).toThrow(/more than 100,000 traces/);
  });
});

describe('strokes that come in', () => {
  const any = fc.double();
  const trace: fc.Arbitrary<InkTrace> = fc
    .record({
      points: fc.array(fc.tuple(any, any, any, any, any, any), { maxLength: 20 }),
      leans: fc.boolean(),
      brush: fc.record({
        color: fc.constantFrom(null, '#12ab34'),
        widthPt: fc.option(fc.double({ min: 0, noNaN: true })),
        opacity: fc.option(fc.double({ min: 0, max: 1, noNaN: true })),
        isHighlighter: fc.boolean(),
        pen: fc.constantFrom(null, 'no pen of ours', ...PEN_KINDS),
      }),
    })
    .map(({ points, leans, brush }) => {
      const column = (n: number) => points.map((point) => point[n]);
      const [xPt, yPt, pressure, sinceMs, xDeg, yDeg] = [0, 1, 2, 3, 4, 5].map(column);
      const tilt = leans ? { xDeg, yDeg } : null;
      return { xPt, yPt, pressure, sinceMs, tilt, brush, atMs: null, canvas: null };
    });
  const page = { left: -20, top: 0, right: 580, bottom: 800 };
  const pen = { kind: 'pen', color: '#1f2a44', widthPt: 2 } as const;

  it('can be placed, whatever a file says, and stay when they do', () => {
    fc.assert(
      fc.property(fc.array(trace, { maxLength: 8 }), (traces) => {
        let ids = 0;
        const { strokes } = strokesOfInk(traces, { page, pen, newId: () => `piece-${ids++}` as PieceId });
        expect(changeProblem({ kind: 'place', page: 'page-one' as PageId, pieces: strokes })).toBe(null);
        expect(strokes.every((stroke) => stroke.pen.kind !== 'fading')).toBe(true);
      }),
    );
  });

  it('lie on the page: where they were written, or made smaller in its middle', () => {
    const at = (xPt: number[], yPt: number[]) => {
      const { brush } = readInkMl(ink('<trace>0 0</trace>')).traces[0];
      const columns = { pressure: xPt.map(() => NaN), sinceMs: xPt.map(() => NaN), tilt: null };
      const newId = () => 'piece-one' as PieceId;
      return strokesOfInk([{ xPt, yPt, ...columns, brush, atMs: null, canvas: null }], { page, pen, newId }).strokes[0];
    };
    const here = at([0, 100], [5, 700]);
    expect([[...here.points.xPt], [...here.points.yPt]]).toEqual([
      [0, 100],
      [5, 700],
    ]);
    expect([[...here.points.sinceMs], here.points.pressure[0]]).toEqual([[0, 8], expect.closeTo(0.5, 2)]);
    const large = at([0, 6000], [0, 600]);
    expect([...large.points.xPt]).toEqual([10, 550]);
    expect([...large.points.yPt]).toEqual([373, 427]);
    const endless = at([-Number.MAX_VALUE, Number.MAX_VALUE], [Number.MAX_VALUE, Number.MAX_VALUE]);
    expect([[...endless.points.xPt], [...endless.points.yPt]]).toEqual([
      [10, 550],
      [400, 400],
    ]);
  });
});

describe('InkML of ours', () => {
  it('reads back as it was written, stroke by stroke', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), fc.array(page, { maxLength: 4 }), (title, pages) => {
        const read = readInkMl(writeInkMl(title, pages));
        const written = pages.flatMap(({ strokes }, n) => strokes.map((one) => ({ ...one, canvas: `page-${n + 1}` })));
        expect(read.traces).toHaveLength(written.length);
        read.traces.forEach((trace, i) => {
          const { pen, opacity, points, atMs, canvas } = written[i];
          expect(trace.xPt).toEqual([...points.xPt]);
          expect(trace.yPt).toEqual([...points.yPt]);
          expect(trace.pressure.map((value) => Math.round(value * 255))).toEqual(
            Array.from(points.pressure, (value) => Math.round(value * 255)),
          );
          expect(trace.sinceMs).toEqual([...points.sinceMs]);
          const upright = Array.from(points.xPt, () => 0);
          expect(trace.tilt!.xDeg.map((deg) => deg || 0)).toEqual([...(points.tilt?.xDeg ?? upright)]);
          expect(trace.tilt!.yDeg.map((deg) => deg || 0)).toEqual([...(points.tilt?.yDeg ?? upright)]);
          if (atMs === null) expect(trace.atMs).toBe(0);
          else expect(Math.abs(trace.atMs! - atMs)).toBeLessThan(1 / 96);
          expect(trace.canvas).toBe(canvas);
          expect(trace.brush).toEqual({
            color: pen.color,
            widthPt: pen.widthPt,
            opacity: expect.closeTo(opacity, 9),
            isHighlighter: pen.kind === 'highlighter',
            pen: pen.kind,
          });
        });
      }),
    );
  });

  it('says where strokes lie now that were moved', () => {
    const points = InkPoints.from([{ xPt: 10, yPt: 20, pressure: 1, sinceMs: 0 }]);
    const pen = { kind: 'pen', color: '#000000', widthPt: 1 } as const;
    const moved = { pen, opacity: 1, points, matrix: [2, 0, 0, 2, 5, -5], atMs: null } as const;
    const [trace] = readInkMl(
      writeInkMl('', [{ title: '', rect: { left: 0, top: 0, right: 100, bottom: 100 }, strokes: [moved] }]),
    ).traces;
    expect([trace.xPt, trace.yPt]).toEqual([[25], [35]]);
  });
});
