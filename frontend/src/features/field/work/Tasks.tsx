import { Check } from 'lucide-react';
import { clockTime } from '@/shared/time';
import type { OwnVisit } from '../sync/ahead';
import { useRecord } from './record';

/** The tasks in their order, each with a place large enough for a thumb in a glove. */
export function Tasks({ visit }: { visit: OwnVisit }) {
  const record = useRecord(visit.id);
  return (
    <ul className="divide-y divide-hairline border-y border-hairline">
      {visit.report.tasks.map(({ words, at, by }) => (
        <li key={words}>
          <button
            type="button"
            role="checkbox"
            aria-checked={at !== null}
            onClick={() => record.mutate({ kind: 'task', body: { words, done: at === null } })}
            className="flex min-h-16 w-full items-center gap-3 px-4 py-2 text-left text-lg"
          >
            <span
              aria-hidden
              className={`grid size-8 shrink-0 place-items-center rounded-sm border-2 ${at === null ? 'border-ink-soft' : 'border-good bg-good text-sheet'}`}
            >
              {at !== null && <Check size={22} />}
            </span>
            <span className="flex-1">
              {words}
              {at !== null && (
                <span className="block text-sm text-ink-soft">
                  {clockTime(at)}, {by}
                </span>
              )}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
