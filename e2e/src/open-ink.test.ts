import { existsSync, mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import { readInkMl } from '@kite-trail/core/formats/inkml/read-inkml';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { savesInto } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openElsewhere, openLesson, piecesOn, takeMarks } from './support/lessons';

const TITLE = 'From chart to compass';
let classroom: Classroom;
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-e2e-'));
const file = join(folder, `${TITLE}.inkml`);

beforeAll(async () => {
  classroom = await openClassroom();
  await savesInto(classroom.browser, folder);
});
afterAll(() => classroom?.close());

const strokesOf = (pieces: { kind: string }[]) => pieces.filter((piece): piece is Stroke => piece.kind === 'stroke');

describe('ink for other programs', () => {
  it('is saved from Share, stroke by stroke, with the times at which each was written', async () => {
    const { teacher, school } = classroom;
    const lessons = await teacher.request<{ id: string; title: string }[]>('GET', '/lessons');
    await teacher.page.goto(`${school.url}/lesson/${lessons.find(({ title }) => title === TITLE)!.id}/share`);
    await openElsewhere(teacher);
    await teacher.press('Save the ink');
    await expect.poll(() => readdirSync(folder)).toEqual([`${TITLE}.inkml`]);
    const { title, traces } = readInkMl(readFileSync(file, 'utf8'));
    expect(title).toBe(TITLE);
    expect(new Set(traces.map(({ canvas }) => canvas)).size).toBe(2);
    expect(traces.length).toBeGreaterThan(20);
    const begun = traces.map(({ atMs }) => atMs!);
    expect(begun).toEqual(begun.toSorted((a, b) => a - b));
    const { takes } = await openLesson(teacher);
    expect(begun.at(-1)).toBeLessThan(takes[0].lengthSamples / 48);
  });

  it('is read alike by a second reader, which shares nothing with ours but the Recommendation: XPath, in Chromium', async () => {
    const source = readFileSync(file, 'utf8');
    const seen = await classroom.teacher.run((text: string) => {
      const ink = new DOMParser().parseFromString(text, 'application/xml');
      const all = (path: string, from: Node = ink) => {
        const names = (prefix: string | null) =>
          prefix === 'i' ? 'http://www.w3.org/2003/InkML' : 'http://www.w3.org/XML/1998/namespace';
        const found = ink.evaluate(path, from, names, XPathResult.ORDERED_NODE_SNAPSHOT_TYPE);
        return Array.from({ length: found.snapshotLength }, (_, n) => found.snapshotItem(n) as Element);
      };
      const named = (reference: string) => all(`//*[@xml:id = "${reference.replace('#', '')}"]`)[0];
      return all('//i:trace').map((trace) => {
        const context = named(trace.parentElement!.getAttribute('contextRef')!);
        const format = named(context.getAttribute('traceFormatRef')!);
        const channels = all('i:channel/@name', format).map((name) => name.nodeValue!);
        const most = Number(all('i:channel[@name="F"]/@max', format)[0].nodeValue);
        const points = trace.textContent!.split(',').map((point) => point.trim().split(/\s+/).map(Number));
        const channel = (name: string) => points.map((point) => point[channels.indexOf(name)]);
        const brush = named(trace.getAttribute('brushRef')!);
        return {
          xPt: channel('X'),
          yPt: channel('Y'),
          pressure: channel('F').map((force) => force / most),
          sinceMs: channel('T'),
          atMs: Number(trace.getAttribute('timeOffset')),
          canvas: context.getAttribute('canvasRef')!.replace('#', ''),
          color: all('i:brushProperty[@name="color"]/@value', brush)[0].nodeValue,
          widthPt: Number(all('i:brushProperty[@name="width"]/@value', brush)[0].nodeValue),
        };
      });
    }, source);
    const ours = readInkMl(source).traces.map(({ brush: { color, widthPt }, tilt: _, ...trace }) => ({
      ...trace,
      color,
      widthPt,
    }));
    expect(seen).toEqual(ours);
  });

  it('comes back as it was, on a page for each canvas; of one canvas, on the page shown', async () => {
    const { teacher } = classroom;
    const { traces } = readInkMl(readFileSync(file, 'utf8'));
    await classroom.makeLesson('Brought back');
    await teacher.upload('Pictures and PDFs', file);
    await teacher.press('Put it on the page at once');
    await expect.poll(async () => (await openLesson(teacher)).pages.length).toBe(3);
    const { pages } = await openLesson(teacher);
    const brought = pages.flatMap(({ pieces }) => strokesOf(decodePieces(Buffer.from(pieces, 'base64'))));
    expect(brought.map(({ points }) => [...points.xPt])).toEqual(traces.map(({ xPt }) => xPt));
    expect(brought.map(({ points }) => [...points.sinceMs])).toEqual(traces.map(({ sinceMs }) => sinceMs));
    expect(brought.map(({ pen }) => pen.color)).toEqual(traces.map(({ brush }) => brush.color));

    await classroom.makeLesson('From elsewhere');
    const simple = '<ink xmlns="http://www.w3.org/2003/InkML"><trace>10 0, 90 140</trace><trace>5 5, 6 6</trace></ink>';
    await teacher.drop('main', 'notes.xml', 'application/xml', Buffer.from(simple));
    await expect.poll(async () => (await piecesOn(teacher)).length).toBe(2);
    expect(strokesOf(await piecesOn(teacher)).map(({ points }) => [...points.xPt])).toEqual([
      [7.5, 67.5],
      [3.75, 4.5],
    ]);
  });

  it('is saved as it stands, also where nothing was recorded', async () => {
    const { teacher } = classroom;
    await teacher.press('Share');
    await openElsewhere(teacher);
    await teacher.press('Save the ink');
    const saved = join(folder, 'From elsewhere.inkml');
    await expect.poll(() => existsSync(saved)).toBe(true);
    expect(readInkMl(readFileSync(saved, 'utf8')).traces.map(({ xPt }) => xPt)).toEqual([
      [7.5, 67.5],
      [3.75, 4.5],
    ]);
  });

  it('is written again as it was, where that is wanted: a recording that goes to the school, and to all who watch', async () => {
    const { teacher } = classroom;
    const { traces } = readInkMl(readFileSync(file, 'utf8'));
    await classroom.makeLesson('Written again');
    await teacher.upload('Pictures and PDFs', file);
    await teacher.press('Write it as it was written');
    await teacher.sees(`The lesson now ends with ${TITLE}.inkml, as it was written.`);
    await expect.poll(async () => (await openLesson(teacher)).takes.map(({ ended }) => ended)).toEqual([true]);
    const { takes } = await openLesson(teacher);
    expect(takes[0].hasSound).toBe(false);
    const ink = decodeMarks(await takeMarks(teacher)).flatMap((mark) => (mark.kind === 'ink' ? [mark] : []));
    expect(ink.map(({ stroke }) => [...stroke.points.xPt])).toEqual(traces.map(({ xPt }) => xPt));
    expect(ink.map(({ stroke }) => [...stroke.points.sinceMs])).toEqual(traces.map(({ sinceMs }) => sinceMs));
    // Each as long after the one before as it was first written, to the millisecond, but for long pauses.
    let [beforeMs, endMs] = [0, 0];
    for (const [n, { atSamples, stroke }] of ink.entries()) {
      const atMs = atSamples / 48;
      const first = traces[n].atMs!;
      if (n > 0 && first - endMs < 10_000)
        expect(Math.abs(atMs - beforeMs - (first - traces[n - 1].atMs!))).toBeLessThan(1);
      [beforeMs, endMs] = [atMs, Math.max(endMs, first + stroke.points.sinceMs.at(-1)!)];
    }
    await teacher.press('Share');
    await teacher.press('Make a watch link');
    await teacher.find('textbox', 'Watch link');
  });

  it('that is damaged changes nothing, and it is said what is wrong', async () => {
    const { teacher } = classroom;
    await classroom.makeLesson('Damaged');
    await teacher.drop('main', 'torn.inkml', '', Buffer.from('<ink><trace>1 1, 2</trace></ink>'));
    await teacher.sees('torn.inkml: Point 2 of a trace in this InkML file cannot be read.');
    await teacher.drop('main', 'bomb.inkml', '', Buffer.from('<!DOCTYPE ink [<!ENTITY a "b">]><ink/>'));
    await teacher.sees('bomb.inkml: This InkML file defines a document type, which is not read.');
    expect(await piecesOn(teacher)).toEqual([]);
  });
});
