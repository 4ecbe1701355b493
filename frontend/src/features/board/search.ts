import { z } from 'zod';
import type { SchemaVisitState } from '@/api/types';
import { STATE_WORDS } from '@/shared/signs';
import { COLUMNS } from './axis';
import { HUINGS, LABELS } from './hues';
import { GROUPINGS, SORTINGS } from './rows';

export const HEADS = ['narrow', 'wide'] as const;
export const SPANS = [1, 3, 7, 14] as const;
export const VIEWS = ['lanes', 'both', 'map', 'list', 'month'] as const;

export const BACKLOG_SORTS = [
  'pressing',
  'priority',
  'due',
  'newest',
  'oldest',
  'longest',
  'shortest',
  'worth',
  'nearest',
] as const;

/** States in which a visit can be in the backlog: without a place, or placed and on the standby list. */
export const WAITING_STATES = ['open', 'placed', 'sent', 'accepted'] as const;

/** Filters and order of the backlog; what is left out is not asked for. */
export const waitingSearch = z.object({
  reason: z.string().max(20).optional().catch(undefined),
  priorities: z.array(z.number().int().min(1).max(5)).optional().catch(undefined),
  area_ids: z.array(z.number().int().positive()).optional().catch(undefined),
  job_type_ids: z.array(z.number().int().positive()).optional().catch(undefined),
  skill: z.string().max(60).optional().catch(undefined),
  states: z.array(z.enum(WAITING_STATES)).optional().catch(undefined),
  due_by: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/)
    .optional()
    .catch(undefined),
  tag: z.string().max(40).optional().catch(undefined),
  customer_id: z.number().int().positive().optional().catch(undefined),
  /** Only what nobody was promised a time for. */
  unpromised: z.boolean().optional().catch(undefined),
  lon: z.number().optional().catch(undefined),
  lat: z.number().optional().catch(undefined),
  metres: z.number().int().positive().optional().catch(undefined),
  extra: z
    .record(z.string(), z.union([z.string(), z.number(), z.boolean()]))
    .optional()
    .catch(undefined),
  sort: z.enum(BACKLOG_SORTS).optional().catch(undefined),
});
export type WaitingSearch = z.infer<typeof waitingSearch>;

export const LIST_COLUMNS = [
  'when',
  'number',
  'technician',
  'job',
  'site',
  'promise',
  'state',
  'broken',
] as const;

/** Filters and order of the list of placed visits. */
export const listSearch = z.object({
  by: z.enum(LIST_COLUMNS).optional().catch(undefined),
  down: z.boolean().optional().catch(undefined),
  text: z.string().max(100).optional().catch(undefined),
  state: z
    .enum(Object.keys(STATE_WORDS) as [SchemaVisitState, ...SchemaVisitState[]])
    .optional()
    .catch(undefined),
  who: z.number().int().positive().optional().catch(undefined),
  broken: z.boolean().optional().catch(undefined),
});
export type ListSearch = z.infer<typeof listSearch>;

/** Everything about the board that can be linked to: days, view, what is selected, how it is drawn. */
export const boardSearch = z.object({
  day: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/)
    .optional()
    .catch(undefined),
  span: z.literal(SPANS).optional().catch(undefined),
  view: z.enum(VIEWS).optional().catch(undefined),
  column: z.literal(COLUMNS).optional().catch(undefined),
  group: z.enum(GROUPINGS).optional().catch(undefined),
  sort: z.enum(SORTINGS).optional().catch(undefined),
  /** Heads of lanes; left out: as wide as the screen allows. */
  heads: z.enum(HEADS).optional().catch(undefined),
  hue: z.enum(HUINGS).optional().catch(undefined),
  label: z.enum(LABELS).optional().catch(undefined),
  visit: z.number().int().positive().optional().catch(undefined),
  /** A technician beside the board. */
  person: z.number().int().positive().optional().catch(undefined),
  /** The planner beside the board: a run's number, or 0 to ask for a new one. */
  run: z.number().int().nonnegative().optional().catch(undefined),
  /** Whose day the planner is asked about. */
  who: z.number().int().positive().optional().catch(undefined),
  /** What the planner is asked for. */
  ask: z.enum(['fill', 'plan', 'repair', 'improve']).optional().catch(undefined),
  /** The visits the planner is asked about; none: whatever the scope holds. */
  only: z.array(z.number().int().positive()).max(200).optional().catch(undefined),
  text: z.string().max(100).optional().catch(undefined),
  waiting: waitingSearch.optional().catch(undefined),
  list: listSearch.optional().catch(undefined),
  /** A stretch of somebody's day that is to be filled, or the visit after which something is to come. */
  gap: z
    .union([
      z.object({
        who: z.number().int().positive(),
        start: z.number().int().positive(),
        end: z.number().int().positive(),
        but: z.number().int().positive().optional(),
      }),
      z.object({ after: z.number().int().positive() }),
    ])
    .optional()
    .catch(undefined),
});
export type Gap = NonNullable<z.infer<typeof boardSearch>['gap']>;
export type BoardSearch = z.infer<typeof boardSearch>;

const KEY = 'board-left-at';
const PASSING = ['visit', 'person', 'run', 'who', 'ask', 'only', 'text', 'gap'] as const;

/** Where this person left the board. The day only on the day it was left: tomorrow begins with today. */
export function leftAt(account: string, today: string): BoardSearch {
  try {
    const kept = JSON.parse(localStorage.getItem(`${KEY} ${account}`) ?? '{}') as {
      on?: string;
      search?: unknown;
    };
    const search = boardSearch.parse(kept.search ?? {});
    if (kept.on !== today) delete search.day;
    return search;
  } catch {
    return {};
  }
}

export const saysNothing = (search: BoardSearch) =>
  Object.values(search).every((value) => value === undefined);

export function leave(account: string, today: string, search: BoardSearch) {
  const kept = { ...search };
  for (const name of PASSING) delete kept[name];
  localStorage.setItem(`${KEY} ${account}`, JSON.stringify({ on: today, search: kept }));
}
