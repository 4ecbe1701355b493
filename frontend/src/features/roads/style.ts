import type { LayerSpecification, StyleSpecification } from 'maplibre-gl';
import { urlOf } from '@/api/client';

export const colour = (token: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(token).trim();

/** The family in which the map writes: the page's own, so that no letters have to be fetched. */
export const FONT = 'Atkinson Hyperlegible Next Variable';

/** Where a layer of the map is fetched from; the map wants whole addresses. */
export const layerUrl = (layer: 'land' | 'roads' | 'areas') =>
  window.location.origin + urlOf('/api/v1/roads/map/{layer}', { layer });

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

/** A filled part of the land layer, in one of the interface's colours. */
const fill = (kind: string, token: string): LayerSpecification => ({
  id: kind,
  type: 'fill',
  source: 'land',
  filter: ['==', ['get', 'kind'], kind],
  paint: { 'fill-color': colour(token) },
});

/** A line of a layer, so thin from afar and so thick from near. */
const line = (
  source: 'land' | 'roads',
  kind: string,
  token: string,
  thin: number,
  thick: number,
): LayerSpecification => ({
  id: kind,
  type: 'line',
  source,
  filter: ['==', ['get', source === 'land' ? 'kind' : 'class'], kind],
  paint: { 'line-color': colour(token), 'line-width': widths(thin, thick) },
});

/** Sea, land, hills, water and roads, in the interface's own colours; what comes later lies above. */
export function regionStyle(): StyleSpecification {
  return {
    version: 8,
    sources: {
      land: { type: 'geojson', data: layerUrl('land') },
      roads: { type: 'geojson', data: layerUrl('roads') },
      areas: { type: 'geojson', data: layerUrl('areas') },
    },
    layers: [
      { id: 'sea', type: 'background', paint: { 'background-color': colour('--water') } },
      fill('land', '--land'),
      fill('hill', '--hill'),
      fill('tarn', '--water'),
      fill('runway', '--road'),
      line('land', 'river', '--water', 3, 34),
      line('land', 'pier', '--road-main', 1, 6),
      line('roads', 'street', '--road', 0.5, 6),
      line('roads', 'lane', '--road-main', 1, 7),
      line('roads', 'main', '--road-main', 1, 9),
      line('roads', 'ring', '--ink-soft', 2, 12),
      line('roads', 'bridge', '--ink', 2.5, 12),
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
