import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { Problem, sentenceOf } from '@/api/client';
import type { SchemaGivesWayOut, SchemaMoveIn } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { clockTime, length } from '@/shared/time';
import { decisionQuery } from '../queries';

type Choice = 'elsewhere' | 'later' | 'backlog';

interface Props {
  visitId: number;
  technicianId: number;
  busy: boolean;
  error: unknown;
  onGive: (start: number, because: string, moves: SchemaMoveIn[]) => void;
}

/** What gives way to urgent work is decided with it: elsewhere, later, or back to the backlog. */
export function GiveDecision({ visitId, technicianId, busy, error, onGive }: Props) {
  const found = useQuery(decisionQuery(visitId, technicianId));
  const [chosen, setChosen] = useState<Record<number, Choice>>({});
  const [because, setBecause] = useState('');
  if (found.isPending) return <p className="text-xs text-ink-soft">Looking where it could go instead…</p>;
  if (found.isError) return <Notice tone="bad">{sentenceOf(found.error)}</Notice>;
  const { start, gives_way: rows, reasons } = found.data;
  const choiceOf = (row: SchemaGivesWayOut) => chosen[row.visit_id] ?? usual(row);
  const asked = error instanceof Problem && error.code === 'reason_needed' ? error.reasons : [];
  const known =
    rows.length === 0 ? reasons.filter((row) => row.weight === 'asks').map((row) => row.sentence) : [];
  const why = asked.length > 0 ? asked : known;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onGive(
      start,
      because.trim(),
      rows.flatMap((row) => moveOf(row, choiceOf(row))),
    );
  };
  return (
    <form
      onSubmit={submit}
      aria-label="What gives way"
      className="mt-1 space-y-2 border-l-2 border-copper pl-2"
    >
      {rows.map((row) => (
        <Ways
          key={row.visit_id}
          row={row}
          chosen={choiceOf(row)}
          onChoose={(choice) => setChosen((old) => ({ ...old, [row.visit_id]: choice }))}
        />
      ))}
      {why.length > 0 && (
        <>
          <ul className="text-warn">
            {why.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
          <TextField
            label="Why all the same"
            autoFocus
            required
            value={because}
            onChange={(event) => setBecause(event.target.value)}
          />
        </>
      )}
      <Button type="submit" rank="main" disabled={busy || (why.length > 0 && !because.trim())}>
        {rows.length > 0 ? 'Give it, and do this' : 'Give it'}
      </Button>
    </form>
  );
}

interface WaysProps {
  row: SchemaGivesWayOut;
  chosen: Choice;
  onChoose: (choice: Choice) => void;
}

/** The ways in which one visit can give way. */
const Ways = ({ row, chosen, onChoose }: WaysProps) => (
  <fieldset className="space-y-0.5">
    <legend className="font-semibold">{row.label}</legend>
    {choices(row).map(([choice, words]) => (
      <label key={choice} className="flex items-start gap-1.5">
        <input
          type="radio"
          name={`way-${row.visit_id}`}
          className="mt-1"
          checked={chosen === choice}
          onChange={() => onChoose(choice)}
        />
        <span>{words}</span>
      </label>
    ))}
  </fieldset>
);

/** Whose promise would break goes elsewhere, where there is a place; who only comes later stays. */
const usual = (row: SchemaGivesWayOut): Choice =>
  row.breaks.length > 0 && row.elsewhere ? 'elsewhere' : 'later';

function choices(row: SchemaGivesWayOut): [Choice, string][] {
  const { elsewhere: place } = row;
  const breaks = row.breaks.length > 0 ? `: ${row.breaks.join('; ')}` : '';
  const later =
    row.later_seconds >= 60
      ? `Stays, ${length(row.later_seconds)} later at ${clockTime(row.starts)}${breaks}`
      : `Stays${breaks}`;
  return [
    ...(place
      ? ([
          [
            'elsewhere',
            `To ${place.name} at ${clockTime(place.start)}, ${length(Math.abs(place.extra_drive_seconds))} ${place.extra_drive_seconds < 0 ? 'less' : 'more'} driving, breaks nothing`,
          ],
        ] as [Choice, string][])
      : []),
    ['later', later],
    ['backlog', row.promise ? 'Back to the backlog, still promised' : 'Back to the backlog'],
  ];
}

function moveOf(row: SchemaGivesWayOut, choice: Choice): SchemaMoveIn[] {
  const { visit_id, version, elsewhere: place } = row;
  // Its plan says then what will be; whoever leads it goes on leading it.
  if (choice === 'later')
    return row.later_seconds >= 60
      ? [{ visit_id, version, technician_id: row.technician_id, start: row.starts }]
      : [];
  if (choice === 'backlog' || !place) return [{ visit_id, version }];
  return [{ visit_id, version, technician_id: place.technician_id, start: place.start }];
}
