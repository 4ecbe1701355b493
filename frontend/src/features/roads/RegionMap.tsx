import { lazy, Suspense } from 'react';
import type { RegionMapProps } from './model';

const MapView = lazy(() => import('./MapView'));

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
