import { geoContains, geoArea } from 'd3-geo';
import { feature } from 'topojson-client';
import { describe, expect, it } from 'vitest';
import atlasJson from 'world-atlas/countries-50m.json';
import type { Surface } from '../paint/surface';
import { drawOutlineMap, MAP_PARTS, projectionOf, type Atlas, type MapPart } from './outline-map';

const atlas = atlasJson as unknown as Atlas;
const SIZE = { widthPx: 1600, heightPx: 900 };
const land = feature(atlas, atlas.objects.land);

/** Inland places in different corners of each part; from memory, within a tenth of a degree. */
const TOWNS: Record<MapPart, [string, number, number][]> = {
  world: [
    ['Quito', -78.5, -0.2],
    ['Kiruna', 20.2, 67.9],
    ['Alice Springs', 133.9, -23.7],
  ],
  africa: [
    ['Fes', -5, 34],
    ['Bloemfontein', 26.2, -29.1],
    ['Kayes', -11.4, 14.4],
    ['Dire Dawa', 41.9, 9.6],
  ],
  antarctica: [
    ['Dome A', 77.4, -80.4],
    ['Vinson Massif', -85.6, -78.5],
  ],
  asia: [
    ['Nagano', 138.2, 36.6],
    ['Bandung', 107.6, -6.9],
    ['Ankara', 32.9, 39.9],
    ['Norilsk', 88.2, 69.3],
  ],
  europe: [
    ['Madrid', -3.7, 40.4],
    ['Vatnajökull', -17, 64.4],
    ['Sofia', 23.3, 42.7],
    ['Moscow', 37.6, 55.8],
  ],
  'north-america': [
    ['Fairbanks', -147.7, 64.8],
    ['Guatemala City', -90.5, 14.6],
    ['Summit Camp', -38.5, 72.6],
    ['Santa Clara', -80, 22.4],
  ],
  oceania: [
    ['Kalgoorlie', 121.5, -30.7],
    ['Twizel', 170.1, -44.3],
    ['Mount Hagen', 144.2, -5.9],
  ],
  'south-america': [
    ['Bogotá', -74.1, 4.7],
    ['Río Turbio', -72.3, -51.5],
    ['Garanhuns', -36.5, -8.9],
    ['Cusco', -72, -13.5],
  ],
};

/** A surface that only notes how far its lines reach. */
function noting() {
  const xs: number[] = [];
  const ys: number[] = [];
  const note = (x: number, y: number) => void (xs.push(x), ys.push(y));
  const surface = { beginPath() {}, closePath() {}, stroke() {}, arc: note, moveTo: note, lineTo: note };
  return { surface: surface as unknown as Surface, xs, ys };
}

const reach = (values: number[]) =>
  values.reduce(({ from, to }, value) => ({ from: Math.min(from, value), to: Math.max(to, value) }), {
    from: Infinity,
    to: -Infinity,
  });

describe('outline maps', () => {
  it('draw land as much of the globe as it is: 29 % (CIA World Factbook)', () => {
    expect(geoArea(land) / (4 * Math.PI)).toBeCloseTo(0.29, 2);
  });

  it.each(MAP_PARTS)('show the towns of %s inside the picture, on land', (part) => {
    const projection = projectionOf(part, SIZE);
    for (const [town, longitude, latitude] of TOWNS[part]) {
      const at = projection([longitude, latitude]);
      expect(at, town).not.toBeNull();
      expect(at![0], town).toBeGreaterThan(0);
      expect(at![0], town).toBeLessThan(SIZE.widthPx);
      expect(at![1], town).toBeGreaterThan(0);
      expect(at![1], town).toBeLessThan(SIZE.heightPx);
      expect(geoContains(land, [longitude, latitude]), town).toBe(true);
    }
  });

  it.each(MAP_PARTS)('fill the picture and stay within it: %s', (part) => {
    const { surface, xs, ys } = noting();
    drawOutlineMap(surface, atlas, part, SIZE, { lineColor: '#5b7083', borders: true, lineWidthPx: 2 });
    const [across, down] = [reach(xs), reach(ys)];
    expect(Math.max((across.to - across.from) / SIZE.widthPx, (down.to - down.from) / SIZE.heightPx)).toBeGreaterThan(
      0.9,
    );
    expect(Math.min(across.from, down.from)).toBeGreaterThanOrEqual(-1);
    expect(across.to).toBeLessThanOrEqual(SIZE.widthPx + 1);
    expect(down.to).toBeLessThanOrEqual(SIZE.heightPx + 1);
  });

  it('keep areas in proportion, as an Equal Earth map does', () => {
    const projection = projectionOf('world', { widthPx: 4000, heightPx: 2000 });
    // A degree's patch at the equator and at 60°: the second is half as large (cos 60°).
    const patch = (longitude: number, latitude: number) => {
      const [a, b, c] = [
        [longitude, latitude - 0.5],
        [longitude + 1, latitude - 0.5],
        [longitude, latitude + 0.5],
      ].map((place) => projection(place as [number, number])!);
      return Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]));
    };
    expect(patch(30, 60) / patch(30, 0)).toBeCloseTo(0.5, 2);
  });
});
