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
    const ink = colour('--copper') as `#${string}`;
    const draw = new TerraDraw({
      adapter: new TerraDrawMapLibreGLAdapter({ map: view, coordinatePrecision: PRECISION }),
      modes: [
        new TerraDrawPolygonMode({ styles: { fillColor: ink, outlineColor: ink, closingPointColor: ink } }),
        new TerraDrawSelectMode({
          styles: {
            selectedPolygonColor: ink,
            selectedPolygonOutlineColor: ink,
            selectionPointColor: ink,
            midPointColor: ink,
          },
          flags: {
            polygon: {
              feature: {
                draggable: false,
                coordinates: { midpoints: true, draggable: true, deletable: true },
              },
            },
          },
        }),
      ],
    });
    draw.start();
    const ring = edited?.type === 'Polygon' ? edited.coordinates[0] : undefined;
    if (ring) {
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
    } else {
      draw.setMode('polygon');
    }
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
        <Source
          type="geojson"
          data={{
            type: 'FeatureCollection',
            features: shapes.map((shape) => ({
              type: 'Feature' as const,
              geometry: shape.polygon,
              properties: { name: shape.name },
            })),
          }}
        >
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
      </Map>
    </div>
  );
}
