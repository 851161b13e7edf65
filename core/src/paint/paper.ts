import { pageRect, type Page, type Paper, type PaperKind } from '../lesson/page';
import type { RectPt } from '../lesson/rect';
import { paintWithin, type Images } from './picture';
import type { Surface } from './surface';

const LINE_WIDTH_PT = 0.75;
/** A red margin line, a sixth of the way in. */
const MARGIN_SHARE = 1 / 6;
const MARGIN_COLOR = '#e2a79b';
const RIM_PT = 2;

/** A page's ground being painted: the whole page, of which only `region` needs to be right. */
interface Ground {
  surface: Surface;
  paper: Paper;
  page: RectPt;
  region: RectPt;
}

/** Paints a page's ground, on a surface already placed in points. Of the pattern, only `region` needs to be right. */
export function paintPaper(surface: Surface, page: Page, images: Images, pxPerPt: number, region?: RectPt): void {
  const { paper } = page;
  const whole = pageRect(page);
  surface.fillStyle = paper.color;
  // Over the edge, so that pixels it runs through are covered whole; the painter clips the rest away.
  const rim = Math.max(RIM_PT, 2 / pxPerPt);
  surface.fillRect(whole.left - rim, whole.top - rim, page.widthPt + 2 * rim, page.heightPt + 2 * rim);
  if (paper.picture) paintWithin(surface, paper.picture, whole, images, pxPerPt);
  surface.fillStyle = paper.lineColor;
  surface.strokeStyle = paper.lineColor;
  surface.lineWidth = LINE_WIDTH_PT;
  PATTERNS[paper.kind]({ surface, paper, page: whole, region: region ? within(region, whole) : whole });
}

const within = (region: RectPt, page: RectPt): RectPt => ({
  left: Math.max(page.left, region.left),
  top: Math.max(page.top, region.top),
  right: Math.min(page.right, region.right),
  bottom: Math.min(page.bottom, region.bottom),
});

const PATTERNS: Record<PaperKind, (ground: Ground) => void> = {
  plain: () => {},
  ruled: across,
  squared: (ground) => {
    across(ground);
    upright(ground);
  },
  margin: (ground) => {
    across(ground);
    const { surface, page } = ground;
    surface.fillStyle = MARGIN_COLOR;
    const x = page.left + (page.right - page.left) * MARGIN_SHARE;
    surface.fillRect(x - LINE_WIDTH_PT / 2, page.top, LINE_WIDTH_PT, page.bottom - page.top);
  },
  dotted: ({ surface, paper, page, region }) => {
    const radius = Math.min(1.4, paper.spacingPt / 8);
    for (const y of places(paper.spacingPt, region.top, region.bottom, page.top, page.bottom)) {
      for (const x of places(paper.spacingPt, region.left, region.right, page.left, page.right)) {
        surface.beginPath();
        surface.arc(x, y, radius, 0, 2 * Math.PI);
        surface.fill();
      }
    }
  },
  isometric: (ground) => {
    // Triangles of the spacing's side: upright lines, and two families at 30° to the level.
    upright(ground, (ground.paper.spacingPt * Math.sqrt(3)) / 2);
    slanted(ground, 1 / Math.sqrt(3));
    slanted(ground, -1 / Math.sqrt(3));
  },
  polar: ({ surface, paper, page }) => {
    const [x, y] = middle(page);
    const reach = Math.hypot(page.right - x, page.bottom - y);
    for (let radius = paper.spacingPt; radius < reach; radius += paper.spacingPt) {
      surface.beginPath();
      surface.arc(x, y, radius, 0, 2 * Math.PI);
      surface.stroke();
    }
    for (let degrees = 0; degrees < 360; degrees += 15) {
      const turn = (degrees * Math.PI) / 180;
      // Rays between the main ones start farther out, so that the middle stays open.
      const from = degrees % 90 === 0 ? 0 : paper.spacingPt;
      line(
        surface,
        x + from * Math.cos(turn),
        y + from * Math.sin(turn),
        x + reach * Math.cos(turn),
        y + reach * Math.sin(turn),
      );
    }
  },
  staves: (ground) => {
    // Five lines, and room for ledger lines and words beneath.
    lineGroups(ground, [0, 1, 2, 3, 4], 10);
  },
  handwriting: (ground) => {
    // Ascender line, the band of small letters between two lines (shaded), descender line.
    const { surface, paper, page } = ground;
    const bands = lineGroups(ground, [0, 1, 2, 3], 4.5);
    surface.globalAlpha = 0.28;
    for (const top of bands) {
      surface.fillRect(page.left, top + paper.spacingPt, page.right - page.left, paper.spacingPt);
    }
    surface.globalAlpha = 1;
  },
  axes: (ground) => {
    const { surface, paper, page } = ground;
    const [midX, midY] = middle(page);
    const x = snapped(midX, page.left, paper.spacingPt);
    const y = snapped(midY, page.top, paper.spacingPt);
    surface.globalAlpha = 0.55;
    across(ground);
    upright(ground);
    surface.globalAlpha = 1;
    surface.lineWidth = LINE_WIDTH_PT * 2.5;
    surface.strokeStyle = surface.fillStyle = paper.lineColor;
    arrow(surface, page.left + paper.spacingPt / 2, y, page.right - paper.spacingPt / 2, y);
    arrow(surface, x, page.bottom - paper.spacingPt / 2, x, page.top + paper.spacingPt / 2);
  },
};

function across({ surface, paper, page, region }: Ground): void {
  for (const y of places(paper.spacingPt, region.top, region.bottom, page.top, page.bottom)) {
    surface.fillRect(page.left, y - LINE_WIDTH_PT / 2, page.right - page.left, LINE_WIDTH_PT);
  }
}

function upright({ surface, paper, page, region }: Ground, spacingPt = paper.spacingPt): void {
  for (const x of places(spacingPt, region.left, region.right, page.left, page.right)) {
    surface.fillRect(x - LINE_WIDTH_PT / 2, page.top, LINE_WIDTH_PT, page.bottom - page.top);
  }
}

/** Parallel lines of a slope, the spacing apart where they meet an upright. */
function slanted({ surface, paper, page }: Ground, slope: number): void {
  const rise = slope * (page.right - page.left);
  const first = page.top + Math.floor(Math.min(0, -rise) / paper.spacingPt) * paper.spacingPt;
  for (let y = first; y < page.bottom + Math.max(0, -rise); y += paper.spacingPt) {
    line(surface, page.left, y, page.right, y + rise);
  }
}

/** Groups of level lines down the page. @returns the top line of each group */
function lineGroups({ surface, paper, page }: Ground, lines: readonly number[], periodInLines: number): number[] {
  const spacing = paper.spacingPt;
  const height = lines[lines.length - 1] * spacing;
  const tops: number[] = [];
  for (let top = page.top + 2 * spacing; top + height < page.bottom - spacing; top += periodInLines * spacing) {
    tops.push(top);
    for (const at of lines) {
      const y = top + at * spacing;
      surface.fillRect(page.left, y - LINE_WIDTH_PT / 2, page.right - page.left, LINE_WIDTH_PT);
    }
  }
  return tops;
}

function line(surface: Surface, fromX: number, fromY: number, toX: number, toY: number): void {
  surface.beginPath();
  surface.moveTo(fromX, fromY);
  surface.lineTo(toX, toY);
  surface.stroke();
}

function arrow(surface: Surface, fromX: number, fromY: number, toX: number, toY: number): void {
  line(surface, fromX, fromY, toX, toY);
  const turn = Math.atan2(toY - fromY, toX - fromX);
  for (const side of [-1, 1]) {
    const back = turn + side * 2.7;
    line(surface, toX, toY, toX + 8 * Math.cos(back), toY + 8 * Math.sin(back));
  }
}

const middle = (page: RectPt): [number, number] => [(page.left + page.right) / 2, (page.top + page.bottom) / 2];

const snapped = (at: number, start: number, spacing: number) => start + Math.round((at - start) / spacing) * spacing;

/** Line positions within a stretch, counted from the origin; the page's own edges carry none. */
function* places(spacingPt: number, from: number, to: number, start: number, end: number): Generator<number> {
  const low = Math.max(start + 0.01, from - RIM_PT);
  const high = Math.min(end - 0.01, to + RIM_PT);
  for (let i = Math.ceil(low / spacingPt); i * spacingPt <= high; i++) yield i * spacingPt;
}
