import { Link } from '@tanstack/react-router';
import { Check, ChevronRight, Circle } from 'lucide-react';
import type { OwnVisit } from '../sync/ahead';
import { standingsOf } from '../sync/report';
import { isOfTheWay, type Standing } from '../sync/steps';
import { KIND_WORDS } from '@/shared/steps';
import { saidOf } from './saidOf';

/** What there is to do at the visit, each a tap away: done or not, and what must be. */
export function WorkSteps({ visit }: { visit: OwnVisit }) {
  const rows = standingsOf(visit.report, visit.state).filter(({ kind }) => !isOfTheWay(kind));
  return (
    <nav aria-label="Work" className="-mx-4 border-y border-hairline">
      <ul className="divide-y divide-hairline">
        {rows.map((row) => (
          <li key={row.kind}>
            <Step visit={visit} row={row} />
          </li>
        ))}
      </ul>
    </nav>
  );
}

function Step({ visit, row }: { visit: OwnVisit; row: Standing }) {
  return (
    <Link
      to="/field/$visitId/work/$kind"
      params={{ visitId: String(visit.id), kind: row.kind }}
      className="flex min-h-14 items-center gap-3 px-4 py-2"
    >
      {row.done ? (
        <Check size={22} className="shrink-0 text-good" aria-label="Done" />
      ) : (
        <Circle
          size={22}
          className={`shrink-0 ${row.must ? 'text-copper' : 'text-ink-soft'}`}
          aria-label="Not done"
        />
      )}
      <span className="flex-1">
        <span className="font-semibold">{KIND_WORDS[row.kind]}</span>
        {row.must && !row.done && <span className="text-sm text-ink-soft"> · needed</span>}
        <span className="block text-sm text-ink-soft">{saidOf(row, visit.report)}</span>
      </span>
      <ChevronRight size={20} aria-hidden />
    </Link>
  );
}
