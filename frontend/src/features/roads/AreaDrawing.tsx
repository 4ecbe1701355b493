import workerUrl from 'maplibre-gl/dist/maplibre-gl-worker.mjs?worker&url';
import 'maplibre-gl/dist/maplibre-gl.css';
import { setWorkerUrl } from 'maplibre-gl';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Layer, Map, Source, type MapRef } from 'react-map-gl/maplibre';
import { TerraDraw, TerraDrawPolygonMode, TerraDrawSelectMode } from 'terra-draw';
import { TerraDrawMapLibreGLAdapter } from 'terra-draw-maplibre-gl-adapter';
import type { AreaEditorProps, AreaShape } from './model';
import { colour, regionStyle } from './style';

setWorkerUrl(workerUrl);
// A click is kept to some ten centimetres; more digits say nothing.
const PRECISION = 7;

function drawingOn(map: ReturnType<MapRef['getMap']>): TerraDraw {
  const ink = colour('--copper') as `#${string}`;
  const select = new TerraDrawSelectMode({
    styles: {
      selectedPolygonColor: ink,
      selectedPolygonOutlineColor: ink,
      selectionPointColor: ink,
      midPointColor: ink,
    },
    flags: {
      polygon: {
        feature: { draggable: false, coordinates: { midpoints: true, draggable: true, deletable: true } },
      },
    },
  });
  return new TerraDraw({
    adapter: new TerraDrawMapLibreGLAdapter({ map, coordinatePrecision: PRECISION }),
    modes: [
      new TerraDrawPolygonMode({ styles: { fillColor: ink, outlineColor: ink, closingPointColor: ink } }),
      select,
    ],
  });
}

/** The outline that is edited is taken up; without one, a new one is begun. */
function beginWith(draw: TerraDraw, edited: AreaEditorProps['edited']) {
  const ring = edited?.type === 'Polygon' ? edited.coordinates[0] : undefined;
  if (!ring) {
    draw.setMode('polygon');
    return;
  }
  const rounded = ring.map((point) => point.map((value) => Number(value.toFixed(PRECISION))));
  const [added] = draw.addFeatures([
    {
      type: 'Feature',
      geometry: { type: 'Polygon', coordinates: [rounded] },
      properties: { mode: 'polygon' },
    },
  ]);
  draw.setMode('select');
  if (added?.id !== undefined) draw.selectFeature(added.id);
}

/** The areas that only show. */
function Others({ shapes }: Pick<AreaEditorProps, 'shapes'>) {
  const features = shapes.map((shape) => ({
    type: 'Feature' as const,
    geometry: shape.polygon,
    properties: { name: shape.name },
  }));
  return (
    <Source type="geojson" data={{ type: 'FeatureCollection', features }}>
      <Layer
        id="other-areas"
        type="fill"
        paint={{ 'fill-color': colour('--copper'), 'fill-opacity': 0.12 }}
      />
      <Layer
        id="other-outlines"
        type="line"
        paint={{ 'line-color': colour('--copper'), 'line-width': 1.5 }}
      />
    </Source>
  );
}

/** Areas on the map; one of them, or a new one, being drawn. */
export default function AreaDrawing({ shapes, edited, onDraw }: AreaEditorProps) {
  const map = useRef<MapRef>(null);
  const style = useMemo(() => regionStyle(), []);
  const [loaded, setLoaded] = useState(false);
  const told = useRef(onDraw);
  useEffect(() => {
    told.current = onDraw;
  }, [onDraw]);
  useEffect(() => {
    const view = map.current?.getMap();
    if (!loaded || !view || !told.current) return;
    const draw = drawingOn(view);
    draw.start();
    beginWith(draw, edited);
    draw.on('finish', () => {
      const found = draw
        .getSnapshot()
        .find((feature) => feature.geometry.type === 'Polygon' && feature.properties.mode === 'polygon');
      if (found) told.current?.(found.geometry as AreaShape);
    });
    return () => draw.stop();
  }, [loaded, edited]);
  return (
    <div className="h-full w-full" role="region" aria-label="Map of the areas" aria-busy={!loaded}>
      <Map
        ref={map}
        initialViewState={{ longitude: -24.6, latitude: 47.222, zoom: 10.8 }}
        mapStyle={style}
        attributionControl={false}
        onLoad={() => setLoaded(true)}
      >
        <Others shapes={shapes} />
      </Map>
    </div>
  );
}
