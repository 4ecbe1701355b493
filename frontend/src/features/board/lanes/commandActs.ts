import { urlOf } from '@/api/client';
import { printOrders } from './printing';
import type { SchemaBulkIn } from '@/api/types';
import { COLUMNS, columnWords } from '../axis';
import { HUING_WORDS, HUINGS, LABEL_WORDS, LABELS } from '../hues';
import type { AnyVisit } from '../model';
import { GROUPING_WORDS, GROUPINGS, SORTING_WORDS, SORTINGS } from '../rows';
import type { BoardSearch } from '../search';
import type { CommandAct } from './CommandField';
import type { Deed } from './interaction';
import { grab } from './useBoardInteraction';

export interface Setting {
  day: string;
  canPlan: boolean;
  change: (changes: Partial<BoardSearch>) => void;
  /** The visit beside the board, or null. */
  visit: AnyVisit | null;
  onTake: (visit: AnyVisit) => void;
  onOpenings: () => void;
  onDeed: (deed: NonNullable<Deed>) => void;
  onBulk: (kind: SchemaBulkIn['kind'], visit: AnyVisit) => void;
  onOrder: (orderId: number) => void;
  onToday: () => void;
  onGap: () => void;
  onLegend: () => void;
  onCrews: () => void;
  onUndo: () => void;
  onRedo: () => void;
  onSend: () => void;
  onLock: (pinned: boolean) => void;
}

/** Whatever can be done on the board, for the command field: first what concerns the visit one looks at. */
export function commandActs(setting: Setting): CommandAct[] {
  const { canPlan } = setting;
  return [
    ...visitActs(setting),
    ...viewActs(setting),
    ...drawingActs(setting),
    ...(canPlan ? planActs(setting) : []),
  ];
}

const NEAR_METRES = 3000;

function visitActs({ visit, canPlan, change, ...on }: Setting): CommandAct[] {
  if (!visit) return [];
  const { number, lon, lat } = visit;
  const near = { lon, lat, metres: NEAR_METRES, sort: 'nearest' as const };
  const acts: CommandAct[] = [
    { words: `${number}: the whole order`, run: () => on.onOrder(visit.order_id) },
    { words: `${number}: what waits near it`, run: () => change({ visit: undefined, waiting: near }) },
  ];
  const placed = visit.technician_id !== null;
  if (placed)
    acts.push({
      words: `${number}: what could come next`,
      keys: 'N',
      run: () => change({ gap: { after: visit.id } }),
    });
  if (!canPlan || !visit.movable) return acts;
  acts.push(
    { words: `${number}: take it up with the keys`, keys: 'M', run: () => on.onTake(visit) },
    { words: `${number}: its openings`, keys: 'O', run: on.onOpenings },
  );
  if (!placed) return acts;
  return [
    ...acts,
    ...(visit.state === 'placed'
      ? [{ words: `${number}: send it`, run: () => on.onBulk('send', visit) }]
      : []),
    visit.pinned
      ? { words: `${number}: unlock it`, run: () => on.onBulk('unlock', visit) }
      : { words: `${number}: lock it where it is`, run: () => on.onBulk('lock', visit) },
    {
      words: `${number}: back to the backlog`,
      keys: 'Delete',
      run: () => on.onDeed({ kind: 'unplace', visit: grab(visit) }),
    },
  ];
}

function viewActs({ day, change, ...on }: Setting): CommandAct[] {
  const print = () => void window.open(urlOf('/api/v1/board/route-sheet', {}, { day }), '_blank');
  return [
    { words: 'Today', keys: 'T', run: on.onToday },
    { words: 'Show one day', run: () => change({ span: undefined }) },
    { words: 'Show three days', run: () => change({ span: 3 }) },
    { words: 'Show a week', run: () => change({ span: 7 }) },
    { words: 'Show two weeks', run: () => change({ span: 14 }) },
    { words: 'Show five weeks', run: () => change({ view: 'month' }) },
    { words: 'Show lanes', run: () => change({ view: undefined }) },
    { words: 'Show lanes and map', run: () => change({ view: 'both' }) },
    { words: 'Show the map', run: () => change({ view: 'map' }) },
    { words: 'Show a list', run: () => change({ view: 'list' }) },
    { words: 'Next gap to fill', keys: 'G', run: on.onGap },
    { words: 'Print the route sheets of this day', run: print },
    { words: 'Print the work orders of this day', run: () => void printOrders(day) },
    { words: 'Legend of signs and keys', keys: '?', run: on.onLegend },
  ];
}

/** Each choice of how the board is drawn. */
function drawingActs({ change }: Setting): CommandAct[] {
  return [
    { words: 'Columns: fit the screen', run: () => change({ column: undefined }) },
    ...COLUMNS.map((column) => ({
      words: `Columns: ${columnWords(column)}`,
      run: () => change({ column }),
    })),
    ...GROUPINGS.map((group) => ({
      words: `Technicians: ${GROUPING_WORDS[group].toLowerCase()}`,
      run: () => change({ group: group === 'none' ? undefined : group }),
    })),
    { words: 'Beside a name: hours', run: () => change({ heads: 'narrow' }) },
    { words: 'Beside a name: hours, skills and areas', run: () => change({ heads: 'wide' }) },
    ...SORTINGS.map((sort) => ({
      words: `Sorted by: ${SORTING_WORDS[sort].toLowerCase()}`,
      run: () => change({ sort: sort === 'name' ? undefined : sort }),
    })),
    ...LABELS.map((label) => ({
      words: `Written on a visit: ${LABEL_WORDS[label].toLowerCase()}`,
      run: () => change({ label: label === 'site' ? undefined : label }),
    })),
    ...HUINGS.map((hue) => ({
      words: `Hue of a visit: ${HUING_WORDS[hue].toLowerCase()}`,
      run: () => change({ hue: hue === 'none' ? undefined : hue }),
    })),
  ];
}

function planActs({ change, ...on }: Setting): CommandAct[] {
  return [
    { words: 'Undo', keys: 'Ctrl Z', run: on.onUndo },
    { words: 'Redo', keys: 'Ctrl Shift Z', run: on.onRedo },
    {
      words: 'Ask the planner',
      run: () => change({ run: 0, visit: undefined, gap: undefined, person: undefined }),
    },
    { words: 'Lock everything that is shown', run: () => on.onLock(true) },
    { words: 'Unlock everything that is shown', run: () => on.onLock(false) },
    { words: 'Crews', run: on.onCrews },
    { words: 'Send everything that is shown', run: on.onSend },
  ];
}
