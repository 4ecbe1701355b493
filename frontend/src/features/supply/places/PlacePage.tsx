import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaOnVanOut, SchemaPlaceOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { useCurrency } from '@/features/pricing';
import { Movements } from '@/features/stock';
import { complain } from '@/shared/complain';
import { price } from '@/shared/money';
import { dayName, dayOfAnyYear, moment } from '@/shared/time';
import { LevelEditor } from '../parts/LevelEditor';
import { Coming, isBelow } from '../parts/figures';
import { useLeave, usePlace } from '../queries';
import { Thresholds } from './Thresholds';

/** A depot or a van: what lies there against what the next days take. */
export function PlacePage() {
  const placeId = Number((useParams({ strict: false }) as { placeId: string }).placeId);
  const place = usePlace(placeId);
  const canMove = may(useSession(), 'move_stock');
  const [text, setText] = useState('');
  if (place.isError)
    return (
      <div className="p-4">
        <Notice tone="bad">{sentenceOf(place.error)}</Notice>
      </div>
    );
  if (!place.data) return <p className="p-4 text-ink-soft">One moment…</p>;
  const row = place.data;
  const shown = row.rows.filter(({ level }) =>
    `${level.part} ${level.number} ${level.shelf}`.toLowerCase().includes(text.trim().toLowerCase()),
  );
  return (
    <div className="space-y-4 p-4">
      <Head place={row} />
      {canMove && row.kind === 'van' && <LeaveThere place={row} />}
      <div className="flex items-end gap-3">
        <input
          type="search"
          aria-label="Find on it"
          placeholder="part, number, shelf"
          className="w-64 rounded-sm border border-hairline bg-sheet px-2 py-1.5 text-sm"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <span className="text-sm text-ink-soft">
          {shown.length} of {row.rows.length} parts
        </span>
      </div>
      <PlaceTable rows={shown} place={row} canMove={canMove} />
      {canMove && <Thresholds placeId={row.id} />}
      <Movements about={{ place_id: row.id }} />
    </div>
  );
}

function Head({ place }: { place: SchemaPlaceOut }) {
  const currency = useCurrency();
  return (
    <header>
      <h1 className="text-xl font-semibold">{place.name}</h1>
      <p className="text-sm text-ink-soft">
        {place.kind === 'van'
          ? place.technician
            ? `driven by ${place.technician}`
            : 'nobody drives it'
          : 'depot'}
        {place.value != null && `; what lies there cost ${price(place.value, currency)}`}
      </p>
      <Link to="/stock/counts" className="text-sm underline">
        Count it
      </Link>
    </header>
  );
}

interface TableProps {
  rows: SchemaOnVanOut[];
  place: SchemaPlaceOut;
  canMove: boolean;
}

/** By part: how many lie there, what each of the next days takes, what is left. */
function PlaceTable({ rows, place, canMove }: TableProps) {
  const [editing, setEditing] = useState('');
  const days = [...new Set(rows.flatMap((row) => Object.keys(row.by_day)))].sort().slice(0, 5);
  const titles = [
    ...(place.kind === 'depot' ? ['Shelf'] : []),
    'On hand',
    ...days.map((day) => dayName(moment(day, 720))),
    'Free',
    'Coming',
    'Least – target',
    'Used last',
    '',
  ];
  return (
    <table className="w-full text-sm" aria-label={`Parts at ${place.name}`}>
      <thead className="sticky top-0 bg-paper">
        <tr className="border-b border-hairline text-left text-xs text-ink-soft">
          {['Part', ...titles].map((title, at) => (
            <th key={`${title} ${at}`} scope="col" className="pr-3 font-semibold">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <PlaceRow
            key={row.level.code}
            row={row}
            days={days}
            withShelf={place.kind === 'depot'}
            canMove={canMove}
            columns={titles.length + 1}
            editing={editing === row.level.code}
            onEdit={(on) => setEditing(on ? row.level.code : '')}
          />
        ))}
      </tbody>
    </table>
  );
}

interface RowProps {
  row: SchemaOnVanOut;
  days: string[];
  withShelf: boolean;
  canMove: boolean;
  columns: number;
  editing: boolean;
  onEdit: (on: boolean) => void;
}

function PlaceRow({ row, days, withShelf, canMove, columns, editing, onEdit }: RowProps) {
  const { level } = row;
  const below = isBelow(level);
  return (
    <>
      <tr className="border-b border-hairline">
        <th scope="row" className="py-1 pr-3 text-left font-normal">
          <Link to="/stock/parts/$code" params={{ code: level.code }} className="underline">
            {level.part}
          </Link>
        </th>
        {withShelf && <td className="pr-3">{level.shelf}</td>}
        <td className="figures pr-3">{level.figures.on_hand}</td>
        {days.map((day) => (
          <td key={day} className="figures pr-3 text-ink-soft">
            {row.by_day[day] ? `−${row.by_day[day]}` : ''}
          </td>
        ))}
        <td className={`figures pr-3 font-semibold ${level.figures.free < 0 ? 'text-bad' : ''}`}>
          {level.figures.free}
        </td>
        <td className="pr-3">
          <Coming rows={level.figures.coming} />
        </td>
        <td className={`figures pr-3 ${below ? 'font-semibold text-warn' : ''}`}>
          {level.least != null && `${below ? '▾ ' : ''}${level.least} – ${level.target}`}
        </td>
        <td className="pr-3 text-ink-soft">{row.last_used ? dayOfAnyYear(row.last_used) : ''}</td>
        <td className="text-right">
          {canMove && (
            <Button
              rank="quiet"
              aria-label={`Change ${level.part}`}
              aria-expanded={editing}
              onClick={() => onEdit(!editing)}
            >
              Change
            </Button>
          )}
        </td>
      </tr>
      {editing && (
        <tr>
          <td colSpan={columns} className="bg-wash p-2">
            <LevelEditor key={level.version} row={level} onDone={() => onEdit(false)} />
          </td>
        </tr>
      )}
    </>
  );
}

/** What the van has not used for as long as the company says, to be left at its depot. */
function LeaveThere({ place }: { place: SchemaPlaceOut }) {
  const leave = useLeave(place.id);
  const rows = place.rows.filter((row) => row.leave && row.level.tracking === 'plain');
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
  if (rows.length === 0) return null;
  const codes = rows.map((row) => row.level.code).filter((code) => !kept.has(code));
  const toggle = (code: string) =>
    setKept((old) => new Set(old.has(code) ? [...old].filter((one) => one !== code) : [...old, code]));
  return (
    <details className="border border-hairline bg-sheet p-3 text-sm">
      <summary className="font-semibold">
        {rows.length} parts could stay at the depot: not used for long, and nothing planned takes them
      </summary>
      <ul className="my-2 columns-2 gap-6">
        {rows.map((row) => (
          <li key={row.level.code}>
            <label className="flex gap-2">
              <input
                type="checkbox"
                checked={!kept.has(row.level.code)}
                onChange={() => toggle(row.level.code)}
              />
              {row.level.figures.on_hand} × {row.level.part}
              <span className="text-ink-soft">
                {row.last_used ? `used last ${dayOfAnyYear(row.last_used)}` : 'never used'}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <Button
        disabled={codes.length === 0 || leave.isPending}
        onClick={() =>
          leave.mutate(codes, {
            onSuccess: (count) => toast.success(`${count} kinds of parts are at the depot`),
            onError: complain,
          })
        }
      >
        Book {codes.length} of them back to the depot
      </Button>
    </details>
  );
}
