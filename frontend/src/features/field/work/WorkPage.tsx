import { Link, useParams } from '@tanstack/react-router';
import { ChevronLeft } from 'lucide-react';
import type { ComponentType } from 'react';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import type { OwnVisit } from '../sync/ahead';
import { inTheWay } from '../sync/steps';
import { KIND_WORDS } from '@/shared/steps';
import { standingsOf } from '../sync/report';
import { Unsent } from '../Unsent';
import { useVisitHere } from '../useVisitHere';
import { Acceptance } from './Acceptance';
import { Answers } from './Answers';
import { Charges } from './Charges';
import { Know } from './Know';
import { Notes } from './Notes';
import { Parts } from './parts/Parts';
import { Photos } from './Photos';
import { Tasks } from './Tasks';
import { Times } from './Times';

const PARTS: Record<string, ComponentType<{ visit: OwnVisit }>> = {
  know: Know,
  tasks: Tasks,
  form: Answers,
  photos: Photos,
  parts: Parts,
  time: Times,
  charges: Charges,
  notes: Notes,
  acceptance: Acceptance,
};

/** One step of the work at a visit, on a page of its own; what comes next is one press away. */
export function WorkPage() {
  const { visitId, kind } = useParams({ strict: false }) as { visitId: string; kind: string };
  const { visit, error, phoneError, kept } = useVisitHere(Number(visitId));
  const Part = PARTS[kind];
  return (
    <main className="mx-auto flex min-h-full max-w-md flex-col bg-sheet">
      <Link
        to="/field/$visitId"
        params={{ visitId }}
        className="flex min-h-14 items-center gap-1 border-b border-hairline px-3 font-semibold"
      >
        <ChevronLeft size={20} aria-hidden /> {visit?.title ?? 'The visit'}
      </Link>
      <h1 className="px-4 pt-3 pb-2 text-2xl font-bold">{KIND_WORDS[kind] ?? 'There is no such step'}</h1>
      {phoneError && <Notice tone="bad">{phoneError} Until then nothing can be recorded on it.</Notice>}
      {!visit && error && <Notice tone="bad">{sentenceOf(error)}</Notice>}
      <div className="flex-1">{visit && Part && <Part visit={visit} />}</div>
      <div className="sticky bottom-0">
        <Unsent kept={kept} />
        {visit && <Onward visit={visit} kind={kind} />}
      </div>
    </main>
  );
}

/** To what has to be done before the work may be finished, else back to the visit. */
function Onward({ visit, kind }: { visit: OwnVisit; kind: string }) {
  // In the customer's hand there is one large button, and it is theirs.
  const signing = kind === 'acceptance' && !visit.report.acceptance;
  const next = signing
    ? undefined
    : inTheWay(standingsOf(visit.report, visit.state)).find((row) => row.kind !== kind && row.kind in PARTS);
  const look = `flex items-center justify-center rounded-sm border font-semibold ${
    signing ? 'min-h-14 border-hairline text-lg' : 'min-h-16 border-copper bg-copper text-xl text-copper-ink'
  }`;
  return (
    <div className="border-t border-hairline bg-paper p-3">
      {next ? (
        <Link
          to="/field/$visitId/work/$kind"
          params={{ visitId: String(visit.id), kind: next.kind }}
          className={look}
        >
          Next: {KIND_WORDS[next.kind]}
        </Link>
      ) : (
        <Link to="/field/$visitId" params={{ visitId: String(visit.id) }} className={look}>
          Back to the visit
        </Link>
      )}
    </div>
  );
}
