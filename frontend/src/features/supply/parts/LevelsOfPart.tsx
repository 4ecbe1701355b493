import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import type { SchemaLevelOut } from '@/api/types';
import { Button } from '@/design/Button';
import { useLevels } from '../queries';
import { LevelEditor } from './LevelEditor';
import { Coming, isBelow } from './figures';

/** A part in every place: on hand, reserved, free, coming, and between which levels it is kept. */
export function LevelsOfPart({ code, canMove }: { code: string; canMove: boolean }) {
  const levels = useLevels(code);
  const [editing, setEditing] = useState<number | null>(null);
  const rows = levels.data ?? [];
  const all = (of: (row: SchemaLevelOut) => number) => rows.reduce((sum, row) => sum + of(row), 0);
  if (levels.isSuccess && rows.length === 0)
    return <p className="text-sm text-ink-soft">None of it lies anywhere, and none is coming.</p>;
  return (
    <table className="w-full text-sm" aria-label="Where it lies">
      <thead>
        <tr className="border-b border-hairline text-left text-xs text-ink-soft">
          {['Place', 'Shelf', 'On hand', 'Reserved', 'Free', 'Coming', 'Least – target', ''].map((title) => (
            <th key={title} scope="col" className="pr-3 font-semibold">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Row
            key={row.place_id}
            row={row}
            canMove={canMove}
            editing={editing === row.place_id}
            onEdit={(on) => setEditing(on ? row.place_id : null)}
          />
        ))}
        <tr className="font-semibold">
          <th scope="row" className="pr-3 text-left">
            Together
          </th>
          <td />
          <td className="figures pr-3">{all((row) => row.figures.on_hand)}</td>
          <td className="figures pr-3">{all((row) => row.figures.reserved)}</td>
          <td className="figures pr-3">{all((row) => row.figures.free)}</td>
          <td colSpan={3} />
        </tr>
      </tbody>
    </table>
  );
}

interface RowProps {
  row: SchemaLevelOut;
  canMove: boolean;
  editing: boolean;
  onEdit: (on: boolean) => void;
}

function Row({ row, canMove, editing, onEdit }: RowProps) {
  const below = isBelow(row);
  return (
    <>
      <tr className="border-b border-hairline">
        <th scope="row" className="py-1 pr-3 text-left font-normal">
          <Link to="/stock/places/$placeId" params={{ placeId: String(row.place_id) }} className="underline">
            {row.place}
          </Link>
        </th>
        <td className="pr-3">{row.shelf}</td>
        <td className="figures pr-3">{row.figures.on_hand}</td>
        <td className="figures pr-3">{row.figures.reserved || ''}</td>
        <td className={`figures pr-3 font-semibold ${row.figures.free < 0 ? 'text-bad' : ''}`}>
          {row.figures.free}
        </td>
        <td className="pr-3">
          <Coming rows={row.figures.coming} />
        </td>
        <td className={`figures pr-3 ${below ? 'font-semibold text-warn' : ''}`}>
          {row.least != null && `${below ? '▾ ' : ''}${row.least} – ${row.target}`}
        </td>
        <td className="text-right">
          {canMove && (
            <Button
              rank="quiet"
              aria-label={`Change ${row.place}`}
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
          <td colSpan={8} className="bg-wash p-2">
            <LevelEditor key={row.version} row={row} onDone={() => onEdit(false)} />
          </td>
        </tr>
      )}
    </>
  );
}
