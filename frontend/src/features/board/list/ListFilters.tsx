import { useMemo } from 'react';
import { STATE_WORDS } from '@/shared/signs';
import type { Board } from '../model';
import type { ListSearch } from '../search';

interface Props {
  board: Board;
  search: ListSearch;
  shown: number;
  change: (changes: Partial<ListSearch>) => void;
}

const FIELD = 'h-8 rounded-sm border border-hairline bg-sheet px-1.5';

/** Which visits of the days shown are listed. */
export function ListFilters({ board, search, shown, change }: Props) {
  const filtered = search.text || search.state || search.who || search.broken;
  return (
    <form
      role="search"
      aria-label="Filter the list"
      className="flex flex-wrap items-center gap-2 border-b border-hairline px-2 py-1 text-sm"
      onSubmit={(event) => event.preventDefault()}
    >
      <input
        type="search"
        aria-label="Words in the list"
        placeholder="Number, job, site, customer"
        className={`${FIELD} w-56`}
        value={search.text ?? ''}
        onChange={(event) => change({ text: event.target.value || undefined })}
      />
      <select
        aria-label="Technician"
        className={`${FIELD} w-40`}
        value={search.who ?? ''}
        onChange={(event) => change({ who: Number(event.target.value) || undefined })}
      >
        <option value="">Every technician</option>
        {board.lanes.map((lane) => (
          <option key={lane.technician_id} value={lane.technician_id}>
            {lane.name}
          </option>
        ))}
      </select>
      <StateChoice board={board} search={search} change={change} />
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={search.broken ?? false}
          onChange={(event) => change({ broken: event.target.checked || undefined })}
        />
        Only broken <span className="text-ink-soft">({brokenWords(board)})</span>
      </label>
      <p role="status" className="ml-auto text-ink-soft">
        {filtered ? `${shown} of ${board.visits.length} visits` : `${shown} visits`}
        {filtered && (
          <button
            type="button"
            className="ml-2 underline"
            onClick={() => change({ text: undefined, who: undefined, state: undefined, broken: undefined })}
          >
            Show all
          </button>
        )}
      </p>
    </form>
  );
}

/** Of the states that are there. */
function StateChoice({ board, search, change }: Pick<Props, 'board' | 'search' | 'change'>) {
  const states = useMemo(() => new Set(board.visits.map((visit) => visit.state)), [board.visits]);
  return (
    <select
      aria-label="State"
      className={FIELD}
      value={search.state ?? ''}
      onChange={(event) => change({ state: (event.target.value || undefined) as ListSearch['state'] })}
    >
      <option value="">Every state</option>
      {(Object.keys(STATE_WORDS) as (keyof typeof STATE_WORDS)[])
        .filter((state) => states.has(state) || state === search.state)
        .map((state) => (
          <option key={state} value={state}>
            {STATE_WORDS[state]}
          </option>
        ))}
    </select>
  );
}

/** How the broken limits of the days shown lie: together they are what the bar counts. */
function brokenWords({ findings }: Board): string {
  const at = findings.flatMap((row) => (row.visit_id === null ? [] : [row.visit_id]));
  const days = findings.length - at.length;
  const visits = new Set(at).size;
  return [
    `${at.length} at ${visits} visit${visits === 1 ? '' : 's'}`,
    ...(days > 0 ? [`${days} on a day as a whole`] : []),
  ].join(', ');
}
