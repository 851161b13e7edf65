import { paintPage } from '@kite-trail/core/paint/painter';
import type { Images } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import type { Timeline } from '@kite-trail/core/trail/timeline';

/** As wide as a printed page is looked at: 200 dots an inch of a sheet of A4. */
const WIDTH_PX = 1600;

/** Prints all pages as they are in the end, one a sheet. */
export async function printPages(timeline: Timeline, images: Images, title: string): Promise<void> {
  const sheets = document.createElement('div');
  sheets.className = 'print-sheets';
  for (const state of timeline.end.pages) {
    const canvas = document.createElement('canvas');
    canvas.width = WIDTH_PX;
    canvas.height = Math.round((WIDTH_PX * state.page.heightPt) / state.page.widthPt);
    const size = { widthPx: canvas.width, heightPx: canvas.height };
    paintPage(canvas.getContext('2d')!, state, fitPage(state.page, size), images);
    const picture = new Image();
    picture.src = canvas.toDataURL('image/png');
    picture.alt = title;
    await picture.decode();
    sheets.append(picture);
  }
  document.body.append(sheets);
  window.addEventListener('afterprint', () => sheets.remove(), { once: true });
  window.print();
}
