import { lazy, Suspense } from 'react';

const MapView = lazy(() => import('./MapView'));

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

/** The region's map, drawn from the same roads the travel times come from. Loaded only when shown. */
export function RegionMap(props: RegionMapProps) {
  return (
    <Suspense
      fallback={
        <div className="grid h-full place-items-center bg-wash text-sm text-ink-soft">Drawing the map…</div>
      }
    >
      <MapView {...props} />
    </Suspense>
  );
}
