import { Plus, X } from 'lucide-react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import type { TypedSurcharge } from './model';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

interface Props {
  rows: TypedSurcharge[];
  onChange: (rows: TypedSurcharge[]) => void;
}

/** So many percent more for labour at some hours. Of several at once the highest holds. */
export function Surcharges({ rows, onChange }: Props) {
  const set = (at: number, changes: Partial<TypedSurcharge>) =>
    onChange(rows.map((row, index) => (index === at ? { ...row, ...changes } : row)));
  return (
    <section aria-label="Surcharges" className="space-y-2">
      <h2 className="font-semibold">Surcharges on labour</h2>
      <p className="text-ink-soft">
        Hours like 18:00-22:00; 22:00-06:00 reaches into the next day. Where several hold at once, the highest
        counts. A price that is told for a window already has them in it.
      </p>
      {rows.map((row, index) => (
        <OneSurcharge
          key={index}
          row={row}
          onChange={(changes) => set(index, changes)}
          onRemove={() => onChange(rows.filter((_, at) => at !== index))}
        />
      ))}
      <Button
        rank="quiet"
        icon={<Plus size={14} />}
        onClick={() =>
          onChange([...rows, { name: '', percent: '', week: Array<string>(7).fill(''), holidays: false }])
        }
      >
        Another surcharge
      </Button>
    </section>
  );
}

interface OneProps {
  row: TypedSurcharge;
  onChange: (changes: Partial<TypedSurcharge>) => void;
  onRemove: () => void;
}

function OneSurcharge({ row, onChange, onRemove }: OneProps) {
  return (
    <fieldset aria-label={row.name || 'Surcharge'} className="border-l-2 border-hairline pl-3">
      <div className="flex flex-wrap items-end gap-2">
        <TextField
          label="Name"
          className="w-40"
          maxLength={60}
          value={row.name}
          onChange={(event) => onChange({ name: event.target.value })}
        />
        <TextField
          label="Percent more"
          className="w-24"
          inputMode="decimal"
          value={row.percent}
          onChange={(event) => onChange({ percent: event.target.value })}
        />
        <label className="flex items-center gap-1.5 pb-2">
          <input
            type="checkbox"
            checked={row.holidays}
            onChange={(event) => onChange({ holidays: event.target.checked })}
          />
          whole public holidays
        </label>
        <Button rank="quiet" aria-label={`Remove ${row.name}`} icon={<X size={14} />} onClick={onRemove} />
      </div>
      <div className="grid grid-cols-7 gap-1">
        {DAYS.map((day, at) => (
          <TextField
            key={day}
            label={day}
            value={row.week[at] ?? ''}
            onChange={(event) =>
              onChange({
                week: row.week.map((text, number) => (number === at ? event.target.value : text)),
              })
            }
          />
        ))}
      </div>
    </fieldset>
  );
}
