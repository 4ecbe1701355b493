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
