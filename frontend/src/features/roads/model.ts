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
