import { useState } from 'react';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField } from '@/design/Field';
import type { AnyVisit } from '../model';
import { useStartRun } from '@/features/scheduling';

interface Props {
  visits: AnyVisit[];
  first: string;
  onRun: (run: number) => void;
}

/** A storm: the planner spreads them over the days and people there are, and names who has to be called. */
export function Spread({ visits, first, onRun }: Props) {
  const [from, setFrom] = useState(first);
  const [days, setDays] = useState(3);
  const start = useStartRun();
  return (
    <details className="border-t border-hairline pt-2 text-sm">
      <summary className="cursor-pointer">Spread them over other days</summary>
      <div className="mt-1 grid grid-cols-2 gap-2">
        <DayField label="From" value={from} onChange={(day) => day && setFrom(day)} />
        <SelectField label="Over" value={days} onChange={(event) => setDays(Number(event.target.value))}>
          {[1, 2, 3, 4, 5, 7, 10].map((count) => (
            <option key={count} value={count}>
              {count === 1 ? '1 day' : `${count} days`}
            </option>
          ))}
        </SelectField>
      </div>
      <p className="my-1 text-xs text-ink-soft">
        The planner finds places among what stands there; you read its proposal, and who has to be called,
        first.
      </p>
      <Button
        disabled={start.isPending}
        onClick={() =>
          start.mutate(
            { kind: 'spread', day: from, days, visit_ids: visits.map(({ id }) => id), seconds: 5 },
            { onSuccess: (run) => onRun(run.id) },
          )
        }
      >
        Look for places for {visits.length}
      </Button>
    </details>
  );
}
