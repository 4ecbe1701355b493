import workerUrl from 'maplibre-gl/dist/maplibre-gl-worker.mjs?worker&url';
import 'maplibre-gl/dist/maplibre-gl.css';
import { setWorkerUrl, type StyleSpecification } from 'maplibre-gl';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Layer, Map, Marker, Source, type MapRef } from 'react-map-gl/maplibre';
import { addressAt } from './queries';
import type { RegionMapProps } from './model';

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
    else if (lon !== undefined && lat !== undefined)
      map.current?.easeTo({ center: [lon, lat], zoom: 13.5, duration: 300 });
  }, [loaded, lon, lat, path]);
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

/** West, south, east, north. */
function boundsOf(path: [number, number][]): [number, number, number, number] {
  const lons = path.map(([lon]) => lon);
  const lats = path.map(([, lat]) => lat);
  return [Math.min(...lons), Math.min(...lats), Math.max(...lons), Math.max(...lats)];
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

const colour = (token: string) => getComputedStyle(document.documentElement).getPropertyValue(token).trim();

/** Sea, land, hills, water and roads, in the interface's own colours. */
function regionStyle(): StyleSpecification {
  const layer = (name: string) => `${window.location.origin}/api/roads/map/${name}`;
  const kind = (value: string) => ['==', ['get', 'kind'], value] as ['==', ['get', string], string];
  const road = (value: string) => ['==', ['get', 'class'], value] as ['==', ['get', string], string];
  const widths = (thin: number, thick: number) =>
    ['interpolate', ['linear'], ['zoom'], 10, thin, 16, thick] as [
      'interpolate',
      ['linear'],
      ['zoom'],
      number,
      number,
      number,
      number,
    ];
  return {
    version: 8,
    sources: {
      land: { type: 'geojson', data: layer('land') },
      roads: { type: 'geojson', data: layer('roads') },
      areas: { type: 'geojson', data: layer('areas') },
    },
    layers: [
      { id: 'sea', type: 'background', paint: { 'background-color': colour('--water') } },
      {
        id: 'land',
        type: 'fill',
        source: 'land',
        filter: kind('land'),
        paint: { 'fill-color': colour('--land') },
      },
      {
        id: 'hill',
        type: 'fill',
        source: 'land',
        filter: kind('hill'),
        paint: { 'fill-color': colour('--hill') },
      },
      {
        id: 'tarn',
        type: 'fill',
        source: 'land',
        filter: kind('tarn'),
        paint: { 'fill-color': colour('--water') },
      },
      {
        id: 'runway',
        type: 'fill',
        source: 'land',
        filter: kind('runway'),
        paint: { 'fill-color': colour('--road') },
      },
      {
        id: 'river',
        type: 'line',
        source: 'land',
        filter: kind('river'),
        paint: { 'line-color': colour('--water'), 'line-width': widths(3, 34) },
      },
      {
        id: 'pier',
        type: 'line',
        source: 'land',
        filter: kind('pier'),
        paint: { 'line-color': colour('--road-main'), 'line-width': widths(1, 6) },
      },
      {
        id: 'street',
        type: 'line',
        source: 'roads',
        filter: road('street'),
        paint: { 'line-color': colour('--road'), 'line-width': widths(0.5, 6) },
      },
      {
        id: 'lane',
        type: 'line',
        source: 'roads',
        filter: road('lane'),
        paint: { 'line-color': colour('--road-main'), 'line-width': widths(1, 7) },
      },
      {
        id: 'main',
        type: 'line',
        source: 'roads',
        filter: road('main'),
        paint: { 'line-color': colour('--road-main'), 'line-width': widths(1, 9) },
      },
      {
        id: 'ring',
        type: 'line',
        source: 'roads',
        filter: road('ring'),
        paint: { 'line-color': colour('--ink-soft'), 'line-width': widths(2, 12) },
      },
      {
        id: 'bridge',
        type: 'line',
        source: 'roads',
        filter: road('bridge'),
        paint: { 'line-color': colour('--ink'), 'line-width': widths(2.5, 12) },
      },
      {
        id: 'areas',
        type: 'line',
        source: 'areas',
        paint: {
          'line-color': colour('--ink-soft'),
          'line-width': 1,
          'line-dasharray': [3, 3],
          'line-opacity': 0.5,
        },
      },
    ],
  };
}
