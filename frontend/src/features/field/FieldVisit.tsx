import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { ChevronLeft, MapPinned, Phone } from 'lucide-react';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { StateSign } from '@/design/StateSign';
import { useSession } from '@/features/people';
import { QuotesAtVisit } from '@/features/quotes';
import { RegionMap } from '@/features/roads';
import { WhoGoes } from '@/features/orders';
import { clockTime, isoDay, length, window_ } from '@/shared/time';
import { ownDayQuery, wayQuery } from './queries';
import { Refused, Stamps, Waiting } from './Stamped';
import { Steps } from './Steps';
import { projectRow, underWay, type OwnVisit, type Projected } from './sync/ahead';
import { Unsent } from './Unsent';
import { useVisitHere } from './useVisitHere';
import { WorkSteps } from './work/WorkSteps';

/** One visit, one large action at a time. */
export function FieldVisit() {
  const { visitId } = useParams({ strict: false }) as { visitId: string };
  const here = useVisitHere(Number(visitId));
  return (
    <main className="mx-auto flex min-h-full max-w-md flex-col bg-sheet">
      <Link
        to="/field"
        className="flex min-h-14 items-center gap-1 border-b border-hairline px-3 font-semibold"
      >
        <ChevronLeft size={20} aria-hidden /> My day
      </Link>
      {!here.visit && here.error && (
        <div className="p-3">
          <Notice tone="bad">{sentenceOf(here.error)}</Notice>
        </div>
      )}
      {here.phoneError && (
        <div className="p-3">
          <Notice tone="bad">{here.phoneError} Until then nothing can be recorded on it.</Notice>
        </div>
      )}
      {here.visit && <Loaded {...(here as Here)} />}
    </main>
  );
}

type Here = ReturnType<typeof useVisitHere> & Projected;

function Loaded({ visit, events, waiting, refused, kept, gone }: Here) {
  const { account } = useSession();
  const rows = useQuery(ownDayQuery).data?.visits.map((row) => projectRow(row, kept)) ?? [];
  const busy = underWay(rows, visit.id, account?.technician_id ?? 0);
  const phone = visit.contact_phone || visit.customer_phone;
  return (
    <>
      <div className="flex-1 space-y-4 p-4 text-base">
        <WhatAndWhere visit={visit} />
        <div className="grid grid-cols-2 gap-2">
          {phone && (
            <a
              href={`tel:${phone}`}
              className="flex min-h-14 items-center justify-center gap-2 rounded-sm border border-hairline"
            >
              <Phone size={18} aria-hidden /> {visit.contact_name || 'Call'}
            </a>
          )}
          <Way visit={visit} />
        </div>
        <Told title="What is wrong" words={visit.description === visit.title ? '' : visit.description} />
        <WorkSteps visit={visit} />
        <Told title="Equipment" words={visit.asset} />
        <Told title="Notes from the office" words={visit.notes} />
        {visit.outcome && <Notice tone="good">Done: {visit.outcome}</Notice>}
        <Waiting waiting={waiting} />
        <Refused refused={refused} />
        <Stamps events={events} several={visit.assignments.length > 1} />
        <QuotesAtVisit visitId={visit.id} />
      </div>
      <div className="sticky bottom-0">
        <Unsent kept={kept} />
        {gone ? (
          <div className="border-t border-hairline bg-paper p-3">
            <Notice tone="bad">{sentenceOf(gone)}</Notice>
          </div>
        ) : (
          <Steps key={`${visit.state} ${visit.actions[0]?.step}`} {...{ visit, busy }} />
        )}
      </div>
    </>
  );
}

/** What it is, when, and where. */
function WhatAndWhere({ visit }: { visit: OwnVisit }) {
  const day = visit.start === null ? undefined : isoDay(visit.start);
  return (
    <>
      <div>
        <div className="flex items-center justify-between gap-2">
          <StateSign state={visit.state} />
          <span className="figures text-sm text-ink-soft">{visit.number}</span>
        </div>
        <h1 className="mt-1 text-2xl leading-tight font-bold">{visit.title}</h1>
        {visit.start !== null && (
          <p className="mt-1">
            <time className="font-semibold">{clockTime(visit.start)}</time>
            {visit.duration_seconds && `, ${length(visit.duration_seconds)}`}
            {visit.promise && ` · promised ${window_(visit.promise, day)}`}
          </p>
        )}
      </div>
      <div>
        <p className="font-semibold">{visit.site}</p>
        <p>{visit.address}</p>
        <p className="text-ink-soft">{visit.customer}</p>
        <WhoGoes visit={visit} />
        {visit.access_notes && (
          <p className="mt-1 border-l-4 border-copper bg-copper-wash px-2 py-1">{visit.access_notes}</p>
        )}
      </div>
    </>
  );
}

const Told = ({ title, words }: { title: string; words: string | null }) =>
  words && (
    <div>
      <h2 className="text-sm font-semibold text-ink-soft">{title}</h2>
      <p className="whitespace-pre-line">{words}</p>
    </div>
  );

/** The road there, drawn when asked for. */
function Way({ visit }: { visit: OwnVisit }) {
  const [open, setOpen] = useState(false);
  const way = useQuery({ ...wayQuery(visit.id), enabled: open });
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="flex min-h-14 items-center justify-center gap-2 rounded-sm border border-hairline"
      >
        <MapPinned size={18} aria-hidden /> {open ? 'Hide the way' : 'The way there'}
      </button>
      {open && (
        <div className="col-span-2 h-64 border border-hairline">
          <RegionMap
            label={`The way to ${visit.site}`}
            marks={[{ lon: visit.lon, lat: visit.lat, label: visit.site }]}
            path={way.data?.points as [number, number][] | undefined}
          />
        </div>
      )}
    </>
  );
}
