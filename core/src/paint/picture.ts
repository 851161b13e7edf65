import type { AssetId } from '../lesson/ids';
import type { Sheet } from '../lesson/page';
import type { Picture } from '../lesson/piece';
import type { RectPt } from '../lesson/rect';
import type { PageState } from '../lesson/scene';
import type { Surface } from './surface';

/** Pixels ready to be drawn. `image` is whatever the surface's `drawImage` takes. */
export interface Drawable {
  image: unknown;
  widthPx: number;
  heightPx: number;
}

/** Where the pixels of pictures and PDF pages come from. */
export interface Images {
  /**
   * The whole of a picture, or of a PDF's page, as fine as it is needed and at hand; `null` while there is nothing.
   * @param widthPx how wide the whole of it is on the surface
   */
  find(asset: AssetId, pageIndex: number | null, widthPx: number): Drawable | null;
}

export const NO_IMAGES: Images = { find: () => null };

/** Looks for all that a page shows, so that it is loaded before it is painted. @returns whether all of it is there */
export function findAll({ page, pieces }: PageState, images: Images, pxPerPt: number): boolean {
  const { sheet, paper } = page;
  const found = sheet ? [images.find(sheet.asset, sheet.pageIndex, sheet.widthPt * pxPerPt)] : [];
  if (paper.picture) found.push(images.find(paper.picture, null, page.widthPt * pxPerPt));
  for (const piece of pieces) {
    if (piece.kind === 'picture') found.push(images.find(piece.asset, null, fullWidthPt(piece) * pxPerPt));
  }
  return found.every((one) => one !== null);
}

/** How wide all of a picture would be, were it not cropped. */
const fullWidthPt = ({ frame, crop }: Picture): number => frame.widthPt / (crop.right - crop.left);

/** Paints what is printed on a page, on a surface already placed in points. */
export function paintSheet(surface: Surface, sheet: Sheet, images: Images, pxPerPt: number): void {
  const found = images.find(sheet.asset, sheet.pageIndex, sheet.widthPt * pxPerPt);
  if (!found) return;
  surface.drawImage(found.image, 0, 0, found.widthPx, found.heightPx, 0, 0, sheet.widthPt, sheet.heightPt);
}

/** Paints the whole of a picture into the middle of a rectangle, as large as it lets it be. */
export function paintWithin(surface: Surface, asset: AssetId, rect: RectPt, images: Images, pxPerPt: number): void {
  const [width, height] = [rect.right - rect.left, rect.bottom - rect.top];
  const found = images.find(asset, null, width * pxPerPt);
  if (!found) return;
  const scale = Math.min(width / found.widthPx, height / found.heightPx);
  const size = { width: found.widthPx * scale, height: found.heightPx * scale };
  const [x, y] = [rect.left + (width - size.width) / 2, rect.top + (height - size.height) / 2];
  surface.drawImage(found.image, 0, 0, found.widthPx, found.heightPx, x, y, size.width, size.height);
}

/** Paints a picture: cropped, cut out, turned and mirrored as it says. */
export function paintPicture(surface: Surface, picture: Picture, images: Images, pxPerPt: number): void {
  const { frame, crop, cutOut } = picture;
  const [shareX, shareY] = [crop.right - crop.left, crop.bottom - crop.top];
  const found = images.find(picture.asset, null, fullWidthPt(picture) * pxPerPt);
  if (!found) return;
  surface.save();
  const [cos, sin] = [Math.cos(frame.turnRad), Math.sin(frame.turnRad)];
  const side = frame.mirrored ? -1 : 1;
  surface.transform(cos * side, sin * side, -sin, cos, frame.xPt, frame.yPt);
  if (cutOut.length > 0) {
    surface.beginPath();
    for (let i = 0; i < cutOut.length; i += 2) {
      surface.lineTo(
        ((cutOut[i] - crop.left) / shareX - 0.5) * frame.widthPt,
        ((cutOut[i + 1] - crop.top) / shareY - 0.5) * frame.heightPt,
      );
    }
    surface.closePath();
    surface.clip();
  }
  surface.globalAlpha = picture.opacity;
  surface.drawImage(
    found.image,
    crop.left * found.widthPx,
    crop.top * found.heightPx,
    shareX * found.widthPx,
    shareY * found.heightPx,
    -frame.widthPt / 2,
    -frame.heightPt / 2,
    frame.widthPt,
    frame.heightPt,
  );
  surface.restore();
}
