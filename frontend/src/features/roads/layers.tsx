// What a map of days draws over the region: roads taken with their minutes, sites, traffic, a circle.

import { useMemo } from 'react';
import { Layer, Source } from 'react-map-gl/maplibre';
import type { Dot, RouteLine } from './model';
import { colour, FONT, layerUrl } from './style';

const CIRCLE_POINTS = 64;
/** Nearer than this, the minutes of everybody's drives are written, not only those of the round looked at. */
const MINUTES_ZOOM = 12.4;
/** Nearer than this, dots have their names. */
const DOT_NAMES_ZOOM = 13.5;

const LOUD = ['any', ['get', 'strong'], ['==', ['get', 'look'], 'after']] as never;

export function Lines({ lines, withWords }: { lines: RouteLine[]; withWords: boolean }) {
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

/** Names of areas, faint: the dashed lines between them are drawn by the region's style. */
export const AreaNames = () => (
  <Layer
    id="area-names"
    type="symbol"
    source="areas"
    layout={{
      'text-field': ['get', 'name'],
      'text-font': [FONT],
      'text-size': 13,
      'text-letter-spacing': 0.08,
    }}
    paint={{
      'text-color': colour('--ink-soft'),
      'text-halo-color': colour('--land'),
      'text-halo-width': 1.5,
    }}
  />
);

export function Dots({ dots, withWords }: { dots: Dot[]; withWords: boolean }) {
  const data = useMemo(
    () => ({
      type: 'FeatureCollection' as const,
      features: dots.map(({ id, name, lon, lat }) => ({
        type: 'Feature' as const,
        properties: { id, name },
        geometry: { type: 'Point' as const, coordinates: [lon, lat] },
      })),
    }),
    [dots],
  );
  return (
    <Source id="dots" type="geojson" data={data}>
      <Layer
        id="dots"
        type="circle"
        paint={{
          'circle-radius': ['interpolate', ['linear'], ['zoom'], 10, 2.2, 15, 5],
          'circle-color': colour('--sheet'),
          'circle-stroke-color': colour('--ink'),
          'circle-stroke-width': 1.2,
        }}
      />
      {withWords && (
        <Layer
          id="dot-names"
          type="symbol"
          source="dots"
          minzoom={DOT_NAMES_ZOOM}
          layout={{
            'text-field': ['get', 'name'],
            'text-font': [FONT],
            'text-size': 11,
            'text-offset': [0, 0.6],
            'text-anchor': 'top',
          }}
          paint={{
            'text-color': colour('--ink'),
            'text-halo-color': colour('--land'),
            'text-halo-width': 1.5,
          }}
        />
      )}
    </Source>
  );
}

/** The network, by how much of its free speed is left in this period of the day. */
export function Traffic({ shares }: { shares: Record<string, number> }) {
  const slow = Object.entries(shares).flatMap(([name, share]) => [name, share]);
  const share = ['match', ['get', 'class'], ...slow, 1];
  return (
    <Source type="geojson" data={layerUrl('roads')}>
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

export function Circle({ lon, lat, metres }: { lon: number; lat: number; metres: number }) {
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
