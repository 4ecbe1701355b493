import type { StyleSpecification } from 'maplibre-gl';
import { urlOf } from '@/api/client';

export const colour = (token: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(token).trim();

/** The family in which the map writes: the page's own, so that no letters have to be fetched. */
export const FONT = 'Atkinson Hyperlegible Next Variable';

/** Where a layer of the map is fetched from; the map wants whole addresses. */
export const layerUrl = (layer: 'land' | 'roads' | 'areas') =>
  window.location.origin + urlOf('/api/v1/roads/map/{layer}', { layer });

/** Sea, land, hills, water and roads, in the interface's own colours. */
export function regionStyle(): StyleSpecification {
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
      land: { type: 'geojson', data: layerUrl('land') },
      roads: { type: 'geojson', data: layerUrl('roads') },
      areas: { type: 'geojson', data: layerUrl('areas') },
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
