import workerUrl from 'maplibre-gl/dist/maplibre-gl-worker.mjs?worker&url';
import 'maplibre-gl/dist/maplibre-gl.css';
import { setWorkerUrl } from 'maplibre-gl';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Map, Marker, type MapRef } from 'react-map-gl/maplibre';
import { AreaNames, Circle, Dots, Lines, Traffic } from './layers';
import { boundsOf, CLOSEST, type PlacedSign, type RouteMapProps } from './model';
import { FONT, regionStyle } from './style';

setWorkerUrl(workerUrl);
/** A drop this near to a line is on it. */
const NEAR_PIXELS = 28;
const DOT_REACH = 6;

export default function RouteMapView(props: RouteMapProps) {
  const { label, signs, lines, traffic, circle, dots, onDot, onGround, onReady } = props;
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
        onClick={(event) => {
          const dot = dotAt(map.current, event.point);
          if (dot === null) onGround({ lon: event.lngLat.lng, lat: event.lngLat.lat });
          else onDot(dot);
        }}
      >
        {withWords && <AreaNames />}
        {traffic && <Traffic shares={traffic} />}
        {circle && <Circle {...circle} />}
        <Lines lines={lines} withWords={withWords} />
        {dots.length > 0 && <Dots dots={dots} withWords={withWords} />}
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
    map.current?.fitBounds(boundsOf(signs.map((row) => [row.lon, row.lat])), {
      padding: 40,
      maxZoom: CLOSEST,
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

function dotAt(map: MapRef | null, { x, y }: { x: number; y: number }): number | null {
  if (!map?.getLayer('dots')) return null;
  const box: [[number, number], [number, number]] = [
    [x - DOT_REACH, y - DOT_REACH],
    [x + DOT_REACH, y + DOT_REACH],
  ];
  const [found] = map.queryRenderedFeatures(box, { layers: ['dots'] });
  return found ? Number(found.properties.id) : null;
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
