// What the hue of a visit tells: the dispatcher's choice. State is never told by hue.

import type { AnyVisit } from './model';

export const HUINGS = ['none', 'area', 'job', 'skill', 'priority', 'worth'] as const;
export type Huing = (typeof HUINGS)[number];
export const HUING_WORDS: Record<Huing, string> = {
  none: 'Nothing',
  area: 'Area',
  job: 'Job type',
  skill: 'Skill',
  priority: 'Priority',
  worth: 'Worth',
};
export const LABELS = ['site', 'customer', 'job', 'job_site', 'number'] as const;
export type Label = (typeof LABELS)[number];
export const LABEL_WORDS: Record<Label, string> = {
  site: 'Site',
  customer: 'Customer',
  job: 'Job',
  job_site: 'Job and site',
  number: 'Order number',
};

/** As many as can be told apart; what comes after shares the last one. */
const HUES = 10;

export function hueValue(visit: AnyVisit, by: Huing): string | null {
  switch (by) {
    case 'none':
      return null;
    case 'area':
      return visit.area ?? 'outside every area';
    case 'job':
      return visit.job_type ?? 'no job type';
    case 'skill':
      return rarest(visit);
    case 'priority':
      return `priority ${visit.priority}`;
    case 'worth':
      return worthBand(visit.worth);
  }
}

/** Where each band of worth begins, in the company's currency. */
const BANDS = [0, 100, 250, 500, 1000];

function worthBand(worth: number | null): string {
  if (worth === null) return 'worth unknown';
  const band = BANDS.findLastIndex((least) => worth >= least);
  const next = BANDS[band + 1];
  return next === undefined ? `worth ${BANDS[band]} and more` : `worth ${BANDS[band]}–${next - 1}`;
}

/** The skill asked for at the highest level. */
function rarest(visit: AnyVisit): string {
  const [first] = Object.entries(visit.needs).sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]));
  return first ? first[0] : 'no skill';
}

const PLAIN: ReadonlyMap<string, string> = new Map();
let before: ReadonlyMap<string, string> = PLAIN;

/** A colour for each value that is there, the same for the same set of values: then it is the very same map. */
export function huesOf(visits: AnyVisit[], by: Huing): ReadonlyMap<string, string> {
  if (by === 'none') return PLAIN;
  const values = new Set<string>();
  for (const visit of visits) {
    const value = hueValue(visit, by);
    if (value !== null) values.add(value);
  }
  const sorted = [...values].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  if (sorted.join('\n') === [...before.keys()].join('\n')) return before;
  before = new Map(sorted.map((value, index) => [value, `var(--hue-${Math.min(index, HUES - 1) + 1})`]));
  return before;
}

export function labelOf(visit: AnyVisit, label: Label): string {
  switch (label) {
    case 'site':
      return visit.site;
    case 'customer':
      return visit.customer;
    case 'job':
      return visit.title;
    case 'job_site':
      return `${visit.title} · ${visit.site}`;
    case 'number':
      return visit.number;
  }
}
