export interface Mark {
  lon: number;
  lat: number;
  label: string;
}

export interface RegionMapProps {
  marks: Mark[];
  path?: [number, number][];
  /** Called with the address nearest to a click; without it the map only shows. */
  onPick?: (address: { address: string; lon: number; lat: number; area: string | null }) => void;
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
