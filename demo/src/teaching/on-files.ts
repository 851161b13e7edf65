import { readFileSync } from 'node:fs';
import type { AssetId, PageId, PieceId, TeacherId } from '@kite-trail/core/lesson/ids';
import { BLANK_PAPER, blankPage, wideSquaredPage, withRoom, type Page } from '@kite-trail/core/lesson/page';
import { storable } from '@kite-trail/core/lesson/picture';
import { NEW, newStroke, WHOLE, type Picture, type Stroke } from '@kite-trail/core/lesson/piece';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { named, storeAsset } from '@kite-trail/server/assets/assets';
import { addFile, keepSheetPicture } from '@kite-trail/server/assets/lesson-files';
import type { LessonRow } from '@kite-trail/server/database/rows';
import { makeLesson, writtenPage } from '@kite-trail/server/lessons/lessons';
import type { Knex } from 'knex';
import { SimulatedPen } from '../pen/simulated-pen';
import { DEMO_FOLDER } from '../place';
import { drawHarbour, HARBOUR_PX } from './harbour-picture';
import { BLUE, draw, RED, write, type Writing } from './script';
import { ellipse } from '../pen/letters';

const shipped = (name: string) => readFileSync(new URL(`worksheet/${name}`, DEMO_FOLDER));

/** A4, on the storage grid; the worksheet's second page is shown across. */
const UPRIGHT = { widthPt: 595.28125, heightPt: 841.90625 };
const ACROSS = { widthPt: UPRIGHT.heightPt, heightPt: UPRIGHT.widthPt };
const ROOM_PT = 300;

/** A worksheet that came as a PDF, its first page with room to write beside it. */
export async function keepWorksheetLesson(db: Knex, teacher: TeacherId): Promise<LessonRow> {
  const pdf = shipped('heights-of-tide.pdf');
  const asset = await storeAsset(db, 'application/pdf', named(pdf));
  const [first, second, third] = [UPRIGHT, ACROSS, UPRIGHT].map((size, index) => sheetPage(asset, index, size));
  const room = { leftPt: 0, topPt: 0, rightPt: ROOM_PT, bottomPt: 0 };
  const states: PageState[] = [
    {
      page: withRoom(first, room),
      pieces: written('worksheet', [
        write('range:', 616, 280, BLUE, 17),
        write('4.8 - 1.2 = 3.6 m', 616, 318, BLUE, 17),
        write('one twelfth: 0.3 m', 616, 356, RED, 17),
      ]),
    },
    { page: second, pieces: [] },
    { page: third, pieces: [] },
  ];
  const lesson = await makeLesson(db, teacher, 'Heights of tide: the worksheet', states.map(writtenPage));
  await addFile(db, lesson.id, 'heights-of-tide.pdf', asset);
  for (const index of [0, 1, 2]) {
    await keepSheetPicture(db, teacher, asset, index, named(shipped(`heights-of-tide-${index + 1}.png`)));
  }
  return lesson;
}

/** A picture, locked so that nobody moves it while they write on it. */
export async function keepPictureLesson(db: Knex, teacher: TeacherId): Promise<LessonRow> {
  const png = drawHarbour();
  const asset = await storeAsset(db, 'image/png', named(png));
  const picture: Picture = storable({
    ...NEW,
    kind: 'picture',
    id: 'harbour-picture' as PieceId,
    z: 1,
    asset,
    frame: { xPt: 480, yPt: 296, widthPt: 760, heightPt: 440, turnRad: 0, mirrored: false },
    crop: WHOLE,
    cutOut: new Float32Array(),
    locked: true,
  });
  const ink = written('harbour', [
    write('Into Sandhaven harbour', 100, 56, undefined, 30),
    draw(RED, ellipse(566, 322, 40, 30)),
    write('bar dries 0.6 m', 262, 356, RED, 20),
    write('leading line 015', 270, 480, BLUE, 20),
  ]);
  const page = { ...wideSquaredPage('harbour-page-1' as PageId), paper: { ...BLANK_PAPER, color: '#fffdf7' } };
  const lesson = await makeLesson(db, teacher, 'Into Sandhaven: reading the chart', [
    writtenPage({ page, pieces: [picture, ...ink] }),
  ]);
  await addFile(db, lesson.id, `harbour-${HARBOUR_PX.width}.png`, asset);
  return lesson;
}

function sheetPage(asset: AssetId, pageIndex: number, size: { widthPt: number; heightPt: number }): Page {
  const page = blankPage(`worksheet-page-${pageIndex + 1}` as PageId, size, BLANK_PAPER);
  return { ...page, sheet: { asset, pageIndex, ...size } };
}

function written(name: string, acts: readonly Writing[]): Stroke[] {
  const hand = new SimulatedPen(5);
  return acts
    .flatMap((act) => act.paths.map((path) => ({ pen: act.pen, points: hand.write(path) })))
    .map(({ pen, points }, n) => newStroke({ id: `${name}-ink-${n}` as PieceId, z: n + 2, pen, points }));
}
