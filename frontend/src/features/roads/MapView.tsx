import workerUrl from 'maplibre-gl/dist/maplibre-gl-worker.mjs?worker&url';
import 'maplibre-gl/dist/maplibre-gl.css';
import { setWorkerUrl } from 'maplibre-gl';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Layer, Map, Marker, Source, type MapRef } from 'react-map-gl/maplibre';
import { addressAt } from './queries';
import { boundsOf, CLOSEST, type RegionMapProps } from './model';
import { colour, regionStyle } from './style';

setWorkerUrl(workerUrl);

export default function MapView({ marks, path, onPick, label }: RegionMapProps) {
  const map = useRef<MapRef>(null);
  const style = useMemo(() => regionStyle(), []);
  const [loaded, setLoaded] = useState(false);
  const [mark] = marks;
  const [lon, lat] = [mark?.lon, mark?.lat];
  useEffect(() => {
    if (!loaded) return;
    if (path && path.length > 1) map.current?.fitBounds(boundsOf(path), { padding: 40, duration: 300 });
    else if (marks.length > 1)
      map.current?.fitBounds(boundsOf(marks.map((row) => [row.lon, row.lat])), {
        padding: 50,
        maxZoom: CLOSEST,
        duration: 300,
      });
    else if (lon !== undefined && lat !== undefined)
      map.current?.easeTo({ center: [lon, lat], zoom: 13.5, duration: 300 });
    // The marks are told apart by the first one and their number: callers make the list anew each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [loaded, lon, lat, path, marks.length]);
  return (
    <div className="h-full w-full" role="region" aria-label={label}>
      <Map
        ref={map}
        initialViewState={{
          longitude: mark?.lon ?? -24.6,
          latitude: mark?.lat ?? 47.222,
          zoom: mark ? 13.5 : 11.2,
        }}
        mapStyle={style}
        onLoad={() => setLoaded(true)}
        attributionControl={false}
        cursor={onPick ? 'crosshair' : 'grab'}
        onClick={(event) => {
          if (onPick) void addressAt(event.lngLat.lng, event.lngLat.lat).then(onPick);
        }}
      >
        {path && (
          <Source
            type="geojson"
            data={{ type: 'Feature', properties: {}, geometry: { type: 'LineString', coordinates: path } }}
          >
            <Layer id="path" type="line" paint={{ 'line-color': colour('--copper'), 'line-width': 4 }} />
          </Source>
        )}
        {marks.map((row) => (
          <Marker key={`${row.lon} ${row.lat}`} longitude={row.lon} latitude={row.lat} anchor="bottom">
            <Pin label={row.label} />
          </Marker>
        ))}
      </Map>
    </div>
  );
}

function Pin({ label }: { label: string }) {
  return (
    <div className="flex flex-col items-center font-sans">
      <span className="max-w-48 truncate rounded-sm border border-ink bg-sheet px-1.5 text-xs text-ink">
        {label}
      </span>
      <span className="h-3 w-0.5 bg-ink" />
      <span className="-mt-0.5 size-2.5 rounded-full border-2 border-sheet bg-copper" />
    </div>
  );
}
