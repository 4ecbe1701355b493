import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { clockTime, length } from '@/shared/time';
import { directionsQuery } from '../queries';

interface Props {
  who: number;
  day: string;
  onVisit: (visit: number) => void;
}

/** The day's drives, street by street. Fetched once it is opened. */
export function Directions({ who, day, onVisit }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="border-t border-hairline pt-3 text-sm"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer font-semibold">Directions</summary>
      {open && <Drives who={who} day={day} onVisit={onVisit} />}
    </details>
  );
}

function Drives({ who, day, onVisit }: Props) {
  const drives = useQuery(directionsQuery(who, day));
  if (drives.isError) return <Notice tone="bad">{sentenceOf(drives.error)}</Notice>;
  if (!drives.data) return <p className="mt-1 text-ink-soft">Looking up the roads…</p>;
  if (drives.data.length === 0) return <p className="mt-1 text-ink-soft">No drive on that day.</p>;
  return (
    <ol aria-label="Drives of the day" className="mt-1 space-y-3">
      {drives.data.map((drive) => (
        <li key={`${drive.leaves} ${drive.visit_id}`}>
          <p>
            <time className="figures font-semibold">{clockTime(drive.leaves)}</time> to{' '}
            {drive.visit_id === null ? (
              <b className="font-semibold">{drive.leads_to}</b>
            ) : (
              <button
                type="button"
                className="font-semibold hover:underline"
                onClick={() => onVisit(drive.visit_id!)}
              >
                {drive.leads_to}
              </button>
            )}
            <span className="text-ink-soft">
              , {length(drive.seconds)}, {distance(drive.metres)}
            </span>
          </p>
          {drive.address && <p className="text-ink-soft">{drive.address}</p>}
          {drive.estimated && (
            <p className="text-warn">No road leads there on the map: the drive is a guess.</p>
          )}
          <ol className="mt-0.5 border-l-2 border-hairline pl-2 text-ink-soft">
            {drive.ways.map((way, index) => (
              <li key={index}>
                {sentence(way)} <span className="figures">{distance(way.metres)}</span>
              </li>
            ))}
          </ol>
        </li>
      ))}
    </ol>
  );
}

function sentence({ turn, street }: { turn: string; street: string }): string {
  const name = street || 'a road without a name';
  if (turn === 'straight on') return `Straight on: ${name}`;
  if (turn.startsWith('head')) return `${turn[0]!.toUpperCase()}${turn.slice(1)} on ${name}`;
  return turn === 'turn back' ? `Turn back on ${name}` : `Turn ${turn} into ${name}`;
}

const distance = (metres: number) =>
  metres >= 1000 ? `${(metres / 1000).toFixed(1)} km` : `${Math.max(10, Math.round(metres / 10) * 10)} m`;
