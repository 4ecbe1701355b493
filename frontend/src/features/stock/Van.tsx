import { useId, useState, type FormEvent, type KeyboardEvent } from 'react';
import { X } from 'lucide-react';
import { sentenceOf } from '@/api/client';
import type { SchemaVanPartOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useCount } from './commands';
import { usePartName, useParts, useVan } from './queries';

interface Props {
  technicianId: number;
  name: string;
  /** What the days shown will still take, by key of the part. */
  wanted: ReadonlyMap<string, number>;
  canPlan: boolean;
  /** Counts changed: what depends on them is to be looked at again. */
  onChanged: () => void;
  /** Take back what was counted last. */
  undo: () => void;
}

/** What lies on a technician's van against what the days shown take. */
export function Van({ technicianId, name, wanted, canPlan, onChanged, undo }: Props) {
  const van = useVan(technicianId);
  const partName = usePartName();
  const count = useCount(technicianId, onChanged, undo);
  if (van.isError)
    return (
      <div className="space-y-2">
        <Notice tone="bad">{sentenceOf(van.error)}</Notice>
        <Button onClick={() => void van.refetch()}>Try again</Button>
      </div>
    );
  if (!van.data) return null;
  const rows = van.data;
  const carried = new Set(rows.map((row) => row.code));
  const absent = rows.length ? [...wanted].filter(([part]) => !carried.has(part)) : [];
  return (
    <section aria-label="On the van" className="border-t border-hairline pt-3 text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">On the van</h3>
      {rows.length === 0 && (
        <p className="text-ink-soft">
          Nobody counts the van of {name}: no visit is marked for a missing part.
        </p>
      )}
      <ul className="mt-1">
        {absent.map(([part, quantity]) => (
          <li key={part} className="flex min-h-7 items-center gap-2">
            <span className="min-w-0 flex-1">{partName(part)}</span>
            <b className="text-warn">takes {quantity}, none there</b>
          </li>
        ))}
        {rows.map((row) => (
          <Row
            key={row.code}
            row={row}
            wanted={wanted.get(row.code) ?? 0}
            canPlan={canPlan}
            busy={count.isPending}
            onCount={(quantity) => count.mutate({ part: row.part, quantity, seen: row })}
          />
        ))}
      </ul>
      {canPlan && (
        <AddPart
          busy={count.isPending}
          onAdd={(part, quantity, done) =>
            count.mutate(
              { part, quantity, seen: rows.find((row) => same(row.part, part)) ?? null },
              { onSuccess: done },
            )
          }
        />
      )}
    </section>
  );
}

const MOST = 100_000;

/** A quantity as it is typed, or null when it is none. */
function readQuantity(typed: string): number | null {
  const found = /^\d{1,6}$/.test(typed.trim()) ? Number(typed) : null;
  return found !== null && found <= MOST ? found : null;
}

const same = (one: string, other: string) => one.trim().toLowerCase() === other.trim().toLowerCase();

interface RowProps {
  row: SchemaVanPartOut;
  wanted: number;
  canPlan: boolean;
  busy: boolean;
  onCount: (quantity: number | null) => void;
}

function Row({ row, wanted, canPlan, busy, onCount }: RowProps) {
  // Only what is being typed is kept here: what others count meanwhile shows at once.
  const [typed, setTyped] = useState<string | null>(null);
  const wrong = typed !== null && readQuantity(typed) === null;
  const short = wanted > row.quantity;
  const keep = () => {
    const quantity = typed === null ? null : readQuantity(typed);
    if (quantity === null) return;
    setTyped(null);
    if (quantity !== row.quantity) onCount(quantity);
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'Enter') keep();
    if (event.key !== 'Escape' || typed === null) return;
    event.stopPropagation();
    setTyped(null);
  };
  return (
    <li className="flex min-h-7 items-center gap-2">
      <span className="min-w-0 flex-1">{row.part}</span>
      {wrong && (
        <span role="alert" className="text-bad">
          a whole number
        </span>
      )}
      {!wrong && wanted > 0 && (
        <span className={short ? 'font-semibold text-warn' : 'text-ink-soft'}>takes {wanted}</span>
      )}
      {canPlan ? (
        <input
          aria-label={`${row.part} on the van`}
          aria-invalid={wrong}
          inputMode="numeric"
          readOnly={busy}
          className="figures w-14 rounded-sm border border-hairline bg-sheet px-1.5 py-0.5 text-right"
          value={typed ?? row.quantity}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={keep}
          onKeyDown={onKey}
        />
      ) : (
        <b className="figures">{row.quantity}</b>
      )}
      {canPlan && (
        <Button
          rank="quiet"
          icon={<X size={14} />}
          disabled={busy}
          aria-label={`Take ${row.part} off the list`}
          onClick={() => onCount(null)}
        />
      )}
    </li>
  );
}

interface AddProps {
  busy: boolean;
  onAdd: (part: string, quantity: number, done: () => void) => void;
}

function AddPart({ busy, onAdd }: AddProps) {
  const [part, setPart] = useState('');
  const [quantity, setQuantity] = useState('1');
  const parts = useParts();
  const list = useId();
  const right = readQuantity(quantity) !== null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onAdd(part, Number(quantity), () => {
      setPart('');
      setQuantity('1');
    });
  };
  return (
    <form
      onSubmit={submit}
      aria-label="Count a part"
      className="mt-2 grid grid-cols-[1fr_4rem_auto] items-end gap-2"
    >
      <TextField
        label="Part"
        list={list}
        maxLength={80}
        value={part}
        onChange={(event) => setPart(event.target.value)}
      />
      <datalist id={list}>
        {parts.data
          ?.filter((row) => !row.retired)
          .map((row) => (
            <option key={row.code} value={row.name} />
          ))}
      </datalist>
      <TextField
        label="How many"
        inputMode="numeric"
        value={quantity}
        onChange={(event) => setQuantity(event.target.value)}
        error={right ? undefined : 'A number'}
      />
      <Button type="submit" disabled={!part.trim() || !right || busy}>
        Count
      </Button>
    </form>
  );
}
