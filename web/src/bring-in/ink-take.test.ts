import { readInkMl } from '@kite-trail/core/formats/inkml/read-inkml';
import { byCanvas, strokesOfInk, type Bringing } from '@kite-trail/core/formats/inkml/strokes-of-ink';
import { encodePieces } from '@kite-trail/core/formats/marks-coding';
import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { samplesToMs } from '@kite-trail/core/trail/clock';
import { nanoid } from 'nanoid';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useDesk } from '../lesson/desk';
import { useLesson } from '../lesson/lesson';
import { useRecordingNow } from '../lesson/recording-now';
import { httpSchool } from '../outbox/http-school';
import { atSchool } from '../testing/at-school';
import { madeLesson } from '../testing/made-lesson';
import { useBringIn } from './bring-in';

const { claim, released } = vi.hoisted(() => ({ claim: vi.fn(), released: vi.fn() }));
vi.mock('../capture/recording-claim', () => ({ claimRecording: claim }));
// As the worker reads it, here.
vi.mock('../workers/inkml', () => ({
  withInkMl: (work: (inkMl: object) => unknown) =>
    work({
      read: (source: string, bringing: Omit<Bringing, 'newId'>) =>
        byCanvas(readInkMl(source).traces).map((own) => {
          const { strokes, atMs } = strokesOfInk(own, { ...bringing, newId: () => nanoid(12) as PieceId });
          return { pieces: encodePieces(strokes), atMs };
        }),
    }),
}));

const PAGE = 'page-of-knots' as PageId;
const inkMl = (traces: string) => new File([`<ink xmlns="http://www.w3.org/2003/InkML">${traces}</ink>`], 'rope.inkml');
const TIMED = '<trace timeOffset="3000">3 3, 4 4</trace><trace timeOffset="1000">1 1, 2 2</trace>';
const ON_TWO = `<definitions><canvas xml:id="a"/><canvas xml:id="b"/><context xml:id="ca" canvasRef="#a"/><context xml:id="cb" canvasRef="#b"/></definitions>
  <trace contextRef="#ca" timeOffset="0">1 1, 2 2</trace><trace contextRef="#cb" timeOffset="2000">3 3, 4 4</trace>`;

beforeEach(async () => {
  vi.stubGlobal('location', { href: 'http://school.example/lesson/lesson-of-knots' });
  claim.mockReset().mockResolvedValue(released.mockReset());
  await atSchool(async () => ({ to: 'other' }));
  await useLesson().accept(madeLesson([PAGE], {}));
  useLesson().layDesk();
});

/** Brings ink and answers what is asked. */
async function brought(file: File, how: 'replay' | 'place'): Promise<void> {
  const bringIn = useBringIn();
  const bringing = bringIn.bring([file]);
  await vi.waitFor(() => expect(bringIn.timed).not.toBeNull());
  await bringIn.takeInk(how);
  await bringing;
}
const sent = () => vi.mocked(httpSchool.send).mock.calls.map(([{ head }, payload]) => ({ kind: head.kind, payload }));

describe('ink that tells when it was written', () => {
  it('is a recording at the end of the lesson, stroke by stroke, and goes to the school as any other', async () => {
    await brought(inkMl(TIMED), 'replay');
    const lesson = useLesson();
    const [{ take }] = lesson.programme;
    const { marks, lengthSamples } = lesson.takes.get(take)!;
    expect(marks.map((mark) => [mark.kind, samplesToMs(mark.atSamples)])).toEqual([
      ['turn', 0],
      ['ink', 500],
      ['ink', 2500],
    ]);
    expect(samplesToMs(lengthSamples)).toBe(3008);
    expect(shownPage(useDesk().scene!).pieces).toHaveLength(2);
    expect(useBringIn().notice).toBe('The lesson now ends with rope.inkml, as it was written.');
    await vi.waitFor(() => expect(sent().map(({ kind }) => kind)).toEqual(['take', 'part', 'end']));
    expect(decodeTakePart(sent()[1].payload as Uint8Array)).toMatchObject({ toSamples: lengthSamples, marks });
    expect(released).toHaveBeenCalledOnce();
  });

  it('of several canvases has pages of its own, which are turned as they were', async () => {
    await brought(inkMl(ON_TWO), 'replay');
    const { timeline } = useLesson();
    const { pages } = timeline!.end;
    expect(pages.map(({ page, pieces }) => [page.id === PAGE, pieces.length])).toEqual([
      [true, 0],
      [false, 1],
      [false, 1],
    ]);
    expect(timeline!.end.shown).toBe(pages[2].page.id);
  });

  it('is on the page at once where that is wanted, and held', async () => {
    await brought(inkMl(TIMED), 'place');
    expect(useLesson().takes.size > 0).toBe(false);
    expect(shownPage(useDesk().scene!).pieces).toHaveLength(2);
    useDesk().undo();
    expect(shownPage(useDesk().scene!).pieces).toHaveLength(0);
  });

  it('is nowhere once it is put away', async () => {
    const bringIn = useBringIn();
    const bringing = bringIn.bring([inkMl(TIMED)]);
    await vi.waitFor(() => expect(bringIn.timed).not.toBeNull());
    bringIn.dismiss();
    await bringing;
    expect([useLesson().takes.size > 0, shownPage(useDesk().scene!).pieces.length]).toEqual([false, 0]);
  });

  it('is no recording while another window records, and that is told', async () => {
    claim.mockRejectedValue(new Error('This lesson is being recorded in another window.'));
    await brought(inkMl(TIMED), 'replay');
    expect(useBringIn().problem).toBe('rope.inkml: This lesson is being recorded in another window.');
    expect([useLesson().takes.size > 0, shownPage(useDesk().scene!).pieces.length]).toEqual([false, 0]);
  });

  it('lies on the page at once while one records, and where its times say nothing', async () => {
    const bringIn = useBringIn();
    await bringIn.bring([inkMl('<trace>1 1, 2 2</trace><trace>3 3, 4 4</trace>')]);
    useRecordingNow().state = 'recording';
    await bringIn.bring([inkMl(TIMED)]);
    expect(shownPage(useDesk().scene!).pieces).toHaveLength(4);
  });
});
