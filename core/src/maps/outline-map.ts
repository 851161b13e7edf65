import {
  geoAzimuthalEqualArea,
  geoEqualEarth,
  geoPath,
  type GeoGeometryObjects,
  type GeoPermissibleObjects,
  type GeoProjection,
} from 'd3-geo';
import { feature, mesh } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';
import type { Surface } from '../paint/surface';

/** Land and countries as the world-atlas package has them: Natural Earth data as TopoJSON. */
export type Atlas = Topology<{ countries: GeometryCollection; land: GeometryCollection }>;

/** Degrees of longitude (east is positive) and latitude (north is positive). */
type Place = [longitude: number, latitude: number];

/** A part of the world: the places at its rim, and where it is seen from above. `null` is all of it. */
const PARTS = {
  world: null,
  africa: {
    centre: [17, 2],
    // Ras ben Sakka, Cape Agulhas, the Cape Verde peninsula, Ras Hafun.
    rim: [
      [9.8, 37.4],
      [20, -34.9],
      [-17.6, 14.7],
      [51.4, 10.4],
    ],
  },
  antarctica: {
    centre: [0, -90],
    rim: [
      [0, -63],
      [90, -63],
      [180, -63],
      [-90, -63],
    ],
  },
  asia: {
    centre: [88, 40],
    // Cape Chelyuskin, the southern isles, Cape Baba, and where the land nears America.
    rim: [
      [104.3, 77.7],
      [122, -11],
      [26, 39.5],
      [190, 66],
      [141, -9],
      [44, 12.5],
    ],
  },
  europe: {
    centre: [20, 53],
    // North Cape, Crete, Iceland, the Ural mountains, Cabo da Roca.
    rim: [
      [25.8, 71.2],
      [25, 34.8],
      [-24.5, 65.5],
      [62, 66],
      [60, 51],
      [-9.5, 38.8],
    ],
  },
  'north-america': {
    centre: [-95, 45],
    // Cape Columbia, Panama, the Aleutian Islands, Newfoundland, Greenland.
    rim: [
      [-70, 83.1],
      [-80, 7.2],
      [-170, 53],
      [-52.6, 47.5],
      [-17, 81],
      [-168, 65.6],
    ],
  },
  oceania: {
    centre: [147, -24],
    // Western Australia, New Guinea, New Zealand, Fiji.
    rim: [
      [113, -26],
      [131, 0.5],
      [167, -47.3],
      [178.6, -37.7],
      [179, -17],
      [147, -43.6],
    ],
  },
  'south-america': {
    centre: [-60, -21],
    // Punta Gallinas, Cape Horn, Punta Pariñas, Ponta do Seixas.
    rim: [
      [-71.7, 12.5],
      [-67.3, -56],
      [-81.3, -4.7],
      [-34.8, -7.2],
    ],
  },
} as const satisfies Record<string, { centre: Place; rim: readonly Place[] } | null>;

export type MapPart = keyof typeof PARTS;
export const MAP_PARTS = Object.keys(PARTS) as MapPart[];

export interface MapStyle {
  lineColor: string;
  /** Whether countries are told apart. */
  borders: boolean;
  lineWidthPx: number;
}

const MARGIN_SHARE = 0.03;
const BORDER_SHARE = 0.55;

/**
 * Where places lie on a map of a part of the world. Areas keep their proportions: the world is an Equal Earth map (Šavrič,
 * Patterson and Jenny 2018), its parts are seen from above their middle (Lambert's azimuthal equal-area projection, 1772).
 */
export function projectionOf(part: MapPart, size: { widthPx: number; heightPx: number }): GeoProjection {
  const margin = Math.min(size.widthPx, size.heightPx) * MARGIN_SHARE;
  const box: [Place, Place] = [
    [margin, margin],
    [size.widthPx - margin, size.heightPx - margin],
  ];
  const found = PARTS[part];
  if (!found) return geoEqualEarth().fitExtent(box, { type: 'Sphere' });
  const [longitude, latitude] = found.centre;
  const rim: GeoGeometryObjects = { type: 'MultiPoint', coordinates: found.rim.map((place) => [...place]) };
  return geoAzimuthalEqualArea()
    .rotate([-longitude, -latitude])
    .fitExtent(box, rim)
    .clipExtent([
      [0, 0],
      [size.widthPx, size.heightPx],
    ]);
}

/** Draws a blank map of a part of the world: its coasts and, if wanted, its borders; nothing is filled or named. */
export function drawOutlineMap(
  surface: Surface,
  atlas: Atlas,
  part: MapPart,
  size: { widthPx: number; heightPx: number },
  { lineColor, borders, lineWidthPx }: MapStyle,
): void {
  const trace = geoPath(projectionOf(part, size), surface);
  const draw = (shape: GeoPermissibleObjects, widthPx: number) => {
    surface.lineWidth = widthPx;
    surface.beginPath();
    trace(shape);
    surface.stroke();
  };
  surface.strokeStyle = lineColor;
  surface.lineJoin = 'round';
  draw(feature(atlas, atlas.objects.land), lineWidthPx);
  if (borders)
    draw(
      mesh(atlas, atlas.objects.countries, (one, other) => one !== other),
      lineWidthPx * BORDER_SHARE,
    );
  if (part === 'world') draw({ type: 'Sphere' }, lineWidthPx);
}
