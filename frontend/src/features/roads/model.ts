import type { PointerEvent, ReactNode } from 'react';

export interface Mark {
  lon: number;
  lat: number;
  label: string;
}

/** An address that was found or clicked, with the area it lies in; none: outside every area. */
export interface PickedPlace {
  lon: number;
  lat: number;
  address: string;
  area: string | null;
}

/** As near as a map comes by itself: one place alone still shows with the streets around it. */
export const CLOSEST = 14;

/** West, south, east, north. */
export function boundsOf(points: [number, number][]): [number, number, number, number] {
  const lons = points.map(([lon]) => lon);
  const lats = points.map(([, lat]) => lat);
  return [Math.min(...lons), Math.min(...lats), Math.max(...lons), Math.max(...lats)];
}

export interface RegionMapProps {
  marks: Mark[];
  path?: [number, number][];
  /** Called with the address nearest to a click; without it the map only shows. */
  onPick?: (place: PickedPlace) => void;
  label: string;
}

/** The outline of an area (GeoJSON). */
export type AreaShape =
  { type: 'Polygon'; coordinates: number[][][] } | { type: 'MultiPolygon'; coordinates: number[][][][] };

export interface AreaEditorProps {
  /** The areas that only show. */
  shapes: { name: string; polygon: AreaShape }[];
  /** The outline that is changed; none: a new one is drawn. */
  edited: AreaShape | null;
  /** Called when an outline is closed or changed; without it nothing can be drawn. */
  onDraw?: (shape: AreaShape) => void;
}

/** Something at a place: a sign of one's own, with words for those who do not see it. */
export interface PlacedSign {
  id: string;
  lon: number;
  lat: number;
  words: string;
  sign: ReactNode;
  /** Above the others. */
  front?: boolean;
  onPress?: (event: PointerEvent<HTMLElement>) => void;
  onOpen?: () => void;
}

/** A line on the map; `id` is what the caller knows it by. */
export interface RouteLine {
  id: number;
  points: [number, number][];
  strong: boolean;
  /** Written along it. */
  label?: string;
  /** A round as it is and as it is proposed; left out: an ordinary one. */
  look?: 'before' | 'after';
}

/** A place that is only a dot with a name. */
export interface Dot {
  id: number;
  name: string;
  lon: number;
  lat: number;
}

export interface RouteMapProps {
  label: string;
  signs: PlacedSign[];
  lines: RouteLine[];
  /** Share of the free speed left, by class of road; null: traffic is not drawn. */
  traffic: Record<string, number> | null;
  circle: { lon: number; lat: number; metres: number } | null;
  dots: Dot[];
  onDot: (id: number) => void;
  onGround: (point: { lon: number; lat: number }) => void;
  /** Hands out how to find the line under a point of the screen, while the map is there. */
  onReady: (lineAt: ((x: number, y: number) => number | null) | null) => void;
}
