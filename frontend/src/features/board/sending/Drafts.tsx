import type { SchemaSendingOut } from '@/api/types';
import { clockTime, dayName, window_ } from '@/shared/time';
import type { How } from '../commands';
import { written } from './written';

interface Props {
  row: SchemaSendingOut;
  /** What was decided about the promise, where it is for another day. */
  how: How | undefined;
  onHow: (how: How) => void;
}

/** What sending one visit writes; where it stands on another day than promised, what becomes of the promise first. */
export function Drafts({ row, how, onHow }: Props) {
  const drafts = written(row, how);
  return (
    <li className="p-3">
      <p className="font-semibold">
        <span className="figures">{row.label}</span> {row.site}
        {row.again && <span className="font-normal text-warn"> · sent before, changed since</span>}
      </p>
      {row.elsewhere && <Settle row={row} elsewhere={row.elsewhere} how={how} onHow={onHow} />}
      {drafts.map((draft) => (
        <p key={`${draft.kind} ${draft.name}`} className="mt-1">
          <span className="text-ink-soft">
            {draft.channel} to {draft.name}:
          </span>{' '}
          {draft.text}
        </p>
      ))}
    </li>
  );
}

interface SettleProps extends Props {
  elsewhere: NonNullable<SchemaSendingOut['elsewhere']>;
}

function Settle({ row, elsewhere: { promise, start, window }, how, onHow }: SettleProps) {
  const choices: [How, string][] = [
    ['changed', `The customer agreed: promise ${window_(window)} instead`],
    ['keep', `The promise stays: tell only the technician`],
    ['ask', 'Ask the customer first: not sent, on the list of calls'],
  ];
  return (
    <fieldset className="mt-1 border-l-4 border-warn bg-warn-wash px-2 py-1">
      <legend className="sr-only">Promise of {row.label}</legend>
      <p>
        Promised {window_(promise)}, placed {dayName(start)} {clockTime(start)}.
      </p>
      {choices.map(([choice, words]) => (
        <label key={choice} className="flex items-start gap-1.5">
          <input
            type="radio"
            className="mt-1"
            name={`promise-${row.visit_id}`}
            checked={how === choice}
            onChange={() => onHow(choice)}
          />
          <span>{words}</span>
        </label>
      ))}
    </fieldset>
  );
}
