import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaOpeningOut, SchemaOpeningsOut, SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import type { Shown } from '@/features/scheduling';
import { clockTime, dayName, isoDay, length, moment } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { grab } from '../lanes/useBoardInteraction';
import { usePlace } from '../commands';
import { useOpenings } from '../queries';

interface Props {
  visit: SchemaVisitDetailOut;
  day: string;
  /** Draws a placement on the line while one looks at it. */
  onShow: (placement: Shown | null) => void;
}

/** So many are shown: at first, and when one wants to see more. */
const FIRST = 3;
const MOST = 10;

/** Where the visit could go, the best first, with reasons; and who cannot take it, and why not. */
export function Openings({ visit, day, onShow }: Props) {
  const from = firstDay(visit, day);
  const found = useOpenings(visit.id, from);
  const place = usePlace();
  const [all, setAll] = useState(false);
  const openings = found.data?.openings.slice(0, MOST) ?? [];
  const shown = all ? openings : openings.slice(0, FIRST);
  const take = (opening: SchemaOpeningOut) => {
    const seat = opening.seats[0];
    if (!seat) return;
    onShow(null);
    place.mutate({
      mates: opening.seats.slice(1).map((other) => other.technician_id),
      visit: grab(visit),
      technicianId: seat.technician_id,
      start: opening.start,
    });
  };
  return (
    <section aria-label="Openings" data-testid="openings" className="border-t border-hairline pt-3">
      <h3 className="flex items-baseline justify-between text-xs font-semibold text-ink-soft">
        <span>Openings</span>
        {found.data && (
          <span className="font-normal">
            {found.data.considered} places looked at, {found.data.possible} can take it
          </span>
        )}
      </h3>
      {found.isPending && <p className="mt-1 text-sm text-ink-soft">Looking…</p>}
      {found.isError && (
        <div className="mt-1 space-y-2">
          <Notice tone="warn">{sentenceOf(found.error)}</Notice>
          <Button onClick={() => void found.refetch()}>Try again</Button>
        </div>
      )}
      {found.data?.openings.length === 0 && <NoneFound from={from} reasons={found.data.in_short} />}
      <ol className="mt-1 divide-y divide-hairline">
        {shown.map((opening, index) => (
          <Row
            key={`${opening.start} ${opening.seats.map((seat) => seat.technician_id).join(' ')}`}
            rank={index + 1}
            opening={opening}
            busy={place.isPending}
            onTake={() => take(opening)}
            onShow={(on) => onShow(on ? placementOf(visit, opening) : null)}
          />
        ))}
      </ol>
      {shown.length < openings.length && (
        <button type="button" className="mt-1 text-sm underline" onClick={() => setAll(true)}>
          {openings.length - shown.length} more
        </button>
      )}
      {found.data && found.data.excluded.length > 0 && <Excluded rows={found.data.excluded} />}
    </section>
  );
}

/** Nobody can take it, and what keeps everybody out. */
const NoneFound = ({ from, reasons }: { from: string; reasons: string[] }) => (
  <>
    <p className="mt-1 text-sm">Nobody can take it in the week from {dayName(moment(from, 720))}.</p>
    <ul className="text-sm" aria-label="What keeps them out">
      {reasons.map((words) => (
        <li key={words}>{words}</li>
      ))}
    </ul>
  </>
);

const Excluded = ({ rows }: { rows: SchemaOpeningsOut['excluded'] }) => (
  <details className="mt-2 text-sm">
    <summary className="cursor-pointer text-ink-soft">{rows.length} technicians cannot take it</summary>
    <ul className="mt-1 space-y-1">
      {rows.map((row) => (
        <li key={row.technician_id}>
          <b className="font-semibold">{row.technician}</b>
          <span className="block text-ink-soft">{row.reasons.join(' · ')}</span>
        </li>
      ))}
    </ul>
  </details>
);

function placementOf(visit: SchemaVisitDetailOut, { seats, start }: SchemaOpeningOut): Shown | null {
  return seats[0] ? { visitId: visit.id, technicianId: seats[0].technician_id, start } : null;
}

interface RowProps {
  rank: number;
  opening: SchemaOpeningOut;
  busy: boolean;
  onTake: () => void;
  onShow: (on: boolean) => void;
}

function Row({ rank, opening, busy, onTake, onShow }: RowProps) {
  const names = opening.seats.map((seat) => seat.technician).join(' + ');
  const drive = opening.seats.reduce((sum, seat) => sum + seat.added_drive, 0);
  const parts = opening.parts.map((part) => `${part.name}: ${sign(part.minutes)} min`).join('\n');
  return (
    <li
      className="flex items-start gap-2 py-1.5 text-sm hover:bg-wash"
      onPointerEnter={() => onShow(true)}
      onPointerLeave={() => onShow(false)}
      onFocus={() => onShow(true)}
      onBlur={() => onShow(false)}
    >
      <span className="figures w-4 shrink-0 pt-0.5 text-right text-ink-soft">{rank}</span>
      <div className="min-w-0 flex-1">
        <p className="leading-tight">
          <b className="font-semibold">{names}</b>, {dayName(opening.start)}{' '}
          <time>
            {clockTime(opening.start)}–{clockTime(opening.end)}
          </time>
        </p>
        <p className="text-ink-soft">{opening.reasons.join(' · ')}</p>
        <p className="text-xs text-ink-soft" title={parts}>
          Costs <span className="figures">{Math.round(opening.minutes)}</span> min of driving in all,{' '}
          {drive >= 0 ? length(drive) : `−${length(-drive)}`} of it on the road
        </p>
      </div>
      <Button disabled={busy} onClick={onTake} aria-label={`Place: ${names}, ${clockTime(opening.start)}`}>
        Place
      </Button>
    </li>
  );
}

const sign = (minutes: number) => `${minutes > 0 ? '+' : ''}${minutes}`;

/** From the day that was promised on, or the day one looks at; never from a day that is over. */
function firstDay(visit: SchemaVisitDetailOut, day: string): string {
  const today = isoDay(serverNow());
  const wanted = visit.promise ? isoDay(visit.promise.start) : day;
  return wanted < today ? today : wanted;
}
