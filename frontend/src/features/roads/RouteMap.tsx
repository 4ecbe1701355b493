import { lazy, Suspense } from 'react';
import type { RouteMapProps } from './model';

const RouteMapView = lazy(() => import('./RouteMapView'));

/** Days on the map: marks, roads taken, people. Loaded only when shown. */
export function RouteMap(props: RouteMapProps) {
  return (
    <Suspense
      fallback={
        <div className="grid h-full place-items-center bg-wash text-sm text-ink-soft">Drawing the map…</div>
      }
    >
      <RouteMapView {...props} />
    </Suspense>
  );
}
