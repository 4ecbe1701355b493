import { X } from 'lucide-react';
import { Button } from '@/design/Button';
import { PartChoice } from '../PartChoice';
import { usePartName } from '../queries';

export interface Instead {
  code: string;
  rank: number;
  both_ways: boolean;
}

interface Props {
  /** The part itself, which does not stand in for itself. */
  own: string;
  rows: Instead[];
  onChange: (rows: Instead[]) => void;
  error: string | undefined;
}

/** What does instead of a part, the first choice first. */
export function SubstitutesField({ own, rows, onChange, error }: Props) {
  const nameOf = usePartName();
  const ranked = (next: Instead[]) => onChange(next.map((row, place) => ({ ...row, rank: place + 1 })));
  const move = (at: number, by: number) => {
    const next = [...rows];
    const [row] = next.splice(at, 1);
    next.splice(at + by, 0, row!);
    ranked(next);
  };
  return (
    <div className="space-y-1">
      <p className="text-xs font-semibold text-ink-soft">Does instead, first choice first</p>
      <ol className="text-sm">
        {rows.map((row, at) => (
          <li key={row.code} className="flex items-center gap-2">
            <span className="figures w-5 text-right text-ink-soft">{at + 1}</span>
            <span className="min-w-0 flex-1 truncate">{nameOf(row.code)}</span>
            <label className="flex items-center gap-1 text-xs">
              <input
                type="checkbox"
                checked={row.both_ways}
                onChange={(event) =>
                  onChange(
                    rows.map((one) => (one === row ? { ...one, both_ways: event.target.checked } : one)),
                  )
                }
              />
              and the other way round
            </label>
            <Button rank="quiet" disabled={at === 0} onClick={() => move(at, -1)}>
              Earlier
            </Button>
            <Button
              rank="quiet"
              icon={<X size={14} />}
              aria-label={`${nameOf(row.code)} does not do instead`}
              onClick={() => ranked(rows.filter((one) => one !== row))}
            />
          </li>
        ))}
      </ol>
      <PartChoice
        label="Add a part that does instead"
        value=""
        but={[own, ...rows.map((row) => row.code)]}
        error={error}
        onChoose={(code) => ranked([...rows, { code, rank: rows.length + 1, both_ways: false }])}
      />
    </div>
  );
}
