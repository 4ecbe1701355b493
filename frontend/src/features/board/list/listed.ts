// Which visits the list shows, and in which order.
import { STATE_WORDS } from '@/shared/signs';
import { shownSpan, type Board, type BoardVisit } from '../model';
import type { ListSearch } from '../search';

export interface Listed {
  visit: BoardVisit;
  technician: string;
  /** What does not hold at it, in words. */
  broken: string[];
}

export type ListColumn = NonNullable<ListSearch['by']>;

/** The visits of the days shown that the filters let through, in the order asked for. */
export function listed(board: Board, search: ListSearch): Listed[] {
  const names = new Map(board.lanes.map((lane) => [lane.technician_id, lane.name]));
  const broken = new Map<number, string[]>();
  for (const row of board.findings)
    if (row.visit_id !== null) broken.set(row.visit_id, [...(broken.get(row.visit_id) ?? []), row.sentence]);
  const rows = board.visits.map((visit) => ({
    visit,
    technician: names.get(visit.technician_id ?? 0) ?? '',
    broken: broken.get(visit.id) ?? [],
  }));
  const by = KEYS[search.by ?? 'when'];
  const way = search.down ? -1 : 1;
  return rows
    .filter((row) => isWanted(row, search))
    .sort((a, b) => way * compared(by(a), by(b)) || when(a) - when(b) || a.visit.id - b.visit.id);
}

function isWanted(row: Listed, { text = '', state, who, broken }: ListSearch): boolean {
  if (state && row.visit.state !== state) return false;
  if (who && row.visit.technician_id !== who && !row.visit.mates.includes(who)) return false;
  if (broken && row.broken.length === 0) return false;
  const said = sayings(row);
  return text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => said.includes(word));
}

const sayings = ({ visit, technician, broken }: Listed) =>
  [
    visit.number,
    visit.title,
    visit.site,
    visit.area,
    visit.customer,
    technician,
    STATE_WORDS[visit.state],
    ...broken,
  ]
    .join(' ')
    .toLowerCase();

const when = ({ visit }: Listed) => shownSpan(visit).start;

/** What a column is sorted by; a promise that is not there comes last. */
const KEYS: Record<ListColumn, (row: Listed) => number | string> = {
  when,
  number: ({ visit }) => visit.number,
  technician: (row) => row.technician,
  job: ({ visit }) => visit.title,
  site: ({ visit }) => visit.site,
  promise: ({ visit }) => visit.promise?.start ?? Infinity,
  state: ({ visit }) => STATES.indexOf(visit.state),
  broken: (row) => -row.broken.length,
};

const STATES = Object.keys(STATE_WORDS);

const words = new Intl.Collator('en', { numeric: true });

function compared(a: number | string, b: number | string): number {
  if (typeof a === 'number' && typeof b === 'number') return a === b ? 0 : a < b ? -1 : 1;
  return words.compare(String(a), String(b));
}

/** The rows from one to another, whichever comes first: what Shift and a click choose. */
export function between(rows: readonly Listed[], from: number | null, to: number): number[] {
  const ids = rows.map((row) => row.visit.id);
  const [a, b] = [from === null ? -1 : ids.indexOf(from), ids.indexOf(to)];
  if (a < 0) return [to];
  return ids.slice(Math.min(a, b), Math.max(a, b) + 1);
}
