import workerUrl from 'maplibre-gl/dist/maplibre-gl-worker.mjs?worker&url';
import 'maplibre-gl/dist/maplibre-gl.css';
import { setWorkerUrl } from 'maplibre-gl';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Layer, Map, Marker, Source, type MapRef } from 'react-map-gl/maplibre';
import type { PlacedSign, RouteLine, RouteMapProps } from './model';
import { colour, FONT, regionStyle } from './style';

setWorkerUrl(workerUrl);
/** A drop this near to a line is on it. */
const NEAR_PIXELS = 28;
const CIRCLE_POINTS = 64;
/** Nearer than this, the minutes of everybody's drives are written, not only those of the round looked at. */
const MINUTES_ZOOM = 12.4;

export default function RouteMapView(props: RouteMapProps) {
  const { label, signs, lines, traffic, circle, onGround, onReady } = props;
  const map = useRef<MapRef>(null);
  const style = useMemo(() => regionStyle(), []);
  const [loaded, setLoaded] = useState(false);
  const withWords = useWords();
  useFirstFit(map, loaded, signs);
  useEffect(() => {
    if (!loaded) return;
    onReady((x, y) => lineAt(map.current, x, y));
    return () => onReady(null);
  }, [loaded, onReady]);
  return (
    <div className="h-full w-full" role="region" aria-label={label} aria-busy={!loaded} data-map>
      <Map
        ref={map}
        initialViewState={{ longitude: -24.6, latitude: 47.222, zoom: 10.8 }}
        mapStyle={style}
        attributionControl={false}
        onLoad={() => setLoaded(true)}
        onClick={(event) => onGround({ lon: event.lngLat.lng, lat: event.lngLat.lat })}
      >
        {traffic && <Traffic shares={traffic} />}
        {circle && <Circle {...circle} />}
        <Lines lines={lines} withWords={withWords} />
        {signs.map((row) => (
          <Sign key={row.id} row={row} />
        ))}
      </Map>
    </div>
  );
}

/** Once: everything that is there comes into view. After that the view is the dispatcher's. */
function useFirstFit(map: React.RefObject<MapRef | null>, loaded: boolean, signs: PlacedSign[]) {
  const done = useRef(false);
  useEffect(() => {
    if (!loaded || done.current || signs.length === 0) return;
    done.current = true;
    const [lons, lats] = [signs.map((row) => row.lon), signs.map((row) => row.lat)];
    map.current?.fitBounds([Math.min(...lons), Math.min(...lats), Math.max(...lons), Math.max(...lats)], {
      padding: 40,
      duration: 0,
    });
  }, [map, loaded, signs]);
}

/** Whether the map can write: its letters are drawn from the page's own font, which has to be there first. */
function useWords(): boolean {
  const [ready, setReady] = useState(false);
  useEffect(() => {
    let there = true;
    void document.fonts.load(`12px "${FONT}"`).then(() => there && setReady(true));
    return () => {
      there = false;
    };
  }, []);
  return ready;
}

function lineAt(map: MapRef | null, x: number, y: number): number | null {
  if (!map) return null;
  const box = map.getContainer().getBoundingClientRect();
  const [left, top] = [x - box.left, y - box.top];
  const found = map.queryRenderedFeatures(
    [
      [left - NEAR_PIXELS, top - NEAR_PIXELS],
      [left + NEAR_PIXELS, top + NEAR_PIXELS],
    ],
    { layers: ['route-lines'] },
  );
  const best = found.find((row) => row.properties.strong === true) ?? found[0];
  return best ? Number(best.properties.id) : null;
}

const LOUD = ['any', ['get', 'strong'], ['==', ['get', 'look'], 'after']] as never;

function Lines({ lines, withWords }: { lines: RouteLine[]; withWords: boolean }) {
  const data = useMemo(
    () => ({
      type: 'FeatureCollection' as const,
      features: lines.map((line) => ({
        type: 'Feature' as const,
        properties: { id: line.id, strong: line.strong, look: line.look ?? '', label: line.label ?? '' },
        geometry: { type: 'LineString' as const, coordinates: line.points },
      })),
    }),
    [lines],
  );
  return (
    <Source id="rounds" type="geojson" data={data}>
      <Layer
        id="route-lines"
        type="line"
        layout={{ 'line-cap': 'round', 'line-join': 'round' }}
        filter={['!=', ['get', 'look'], 'before']}
        paint={{
          'line-color': ['case', LOUD, colour('--copper'), colour('--ink')],
          'line-width': ['case', ['get', 'strong'], 4, ['==', ['get', 'look'], 'after'], 2.5, 1.5],
          'line-opacity': ['case', LOUD, 0.95, 0.35],
        }}
      />
      <Layer
        id="rounds-before"
        type="line"
        filter={['==', ['get', 'look'], 'before']}
        paint={{ 'line-color': colour('--ink'), 'line-width': 1.5, 'line-dasharray': [1.5, 2] }}
      />
      {withWords && <Minutes id="minutes" of={['get', 'strong']} size={12} />}
      {withWords && (
        <Minutes id="minutes-near" of={['!', ['get', 'strong']]} size={10.5} from={MINUTES_ZOOM} />
      )}
    </Source>
  );
}

/** Minutes beside the middle of each drive, where there is room for them. */
function Minutes({ id, of, size, from = 0 }: { id: string; of: unknown; size: number; from?: number }) {
  return (
    <Layer
      id={id}
      type="symbol"
      source="rounds"
      minzoom={from}
      filter={['all', ['!=', ['get', 'label'], ''], of] as never}
      layout={{
        'symbol-placement': 'line-center',
        'text-field': ['get', 'label'],
        'text-font': [FONT],
        'text-size': size,
        'text-rotation-alignment': 'viewport',
        'text-padding': 1,
      }}
      paint={{ 'text-color': colour('--ink'), 'text-halo-color': colour('--sheet'), 'text-halo-width': 2 }}
    />
  );
}

function Sign({ row }: { row: PlacedSign }) {
  return (
    <Marker longitude={row.lon} latitude={row.lat} anchor="center" style={{ zIndex: row.front ? 3 : 1 }}>
      {row.onOpen ? (
        <button
          type="button"
          title={row.words}
          aria-label={row.words}
          className="block touch-none"
          onPointerDown={row.onPress}
          onClick={(event) => {
            event.stopPropagation();
            if (!row.onPress) row.onOpen?.();
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter') row.onOpen?.();
          }}
        >
          {row.sign}
        </button>
      ) : (
        <span title={row.words} role="img" aria-label={row.words}>
          {row.sign}
        </span>
      )}
    </Marker>
  );
}

/** The network, by how much of its free speed is left in this period of the day. */
function Traffic({ shares }: { shares: Record<string, number> }) {
  const slow = Object.entries(shares).flatMap(([name, share]) => [name, share]);
  const share = ['match', ['get', 'class'], ...slow, 1];
  return (
    <Source type="geojson" data={`${window.location.origin}/api/roads/map/roads`}>
      <Layer
        id="traffic"
        type="line"
        paint={{
          'line-color': [
            'step',
            share,
            colour('--bad'),
            0.5,
            colour('--warn'),
            0.7,
            colour('--road-main'),
            0.9,
            colour('--good'),
          ] as never,
          'line-width': ['interpolate', ['linear'], ['zoom'], 10, 1, 15, 4],
          'line-opacity': 0.75,
        }}
      />
    </Source>
  );
}

function Circle({ lon, lat, metres }: { lon: number; lat: number; metres: number }) {
  const data = useMemo(() => ring(lon, lat, metres), [lon, lat, metres]);
  return (
    <Source type="geojson" data={data}>
      <Layer id="circle" type="fill" paint={{ 'fill-color': colour('--copper'), 'fill-opacity': 0.1 }} />
      <Layer
        id="circle-line"
        type="line"
        paint={{ 'line-color': colour('--copper'), 'line-width': 1.5, 'line-dasharray': [3, 2] }}
      />
    </Source>
  );
}

const METRES_PER_DEGREE = 111_195;

function ring(lon: number, lat: number, metres: number) {
  const [tall, wide] = [
    metres / METRES_PER_DEGREE,
    metres / (METRES_PER_DEGREE * Math.cos((lat * Math.PI) / 180)),
  ];
  const points = Array.from({ length: CIRCLE_POINTS + 1 }, (_, index) => {
    const angle = (2 * Math.PI * index) / CIRCLE_POINTS;
    return [lon + wide * Math.cos(angle), lat + tall * Math.sin(angle)];
  });
  return {
    type: 'Feature' as const,
    properties: {},
    geometry: { type: 'Polygon' as const, coordinates: [points] },
  };
}
