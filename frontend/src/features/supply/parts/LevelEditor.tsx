import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaLevelOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { useCountAt, useSetLevel } from '@/features/stock';
import { complain } from '@/shared/complain';

const whole = (text: string) => (/^\d{1,6}$/.test(text.trim()) ? Number(text) : null);

/** How many really lie there, where, and between which levels it is kept. */
export const LevelEditor = ({ row, onDone }: { row: SchemaLevelOut; onDone: () => void }) => (
  <div className="flex flex-wrap items-end gap-4">
    <Counted row={row} />
    <Kept row={row} onDone={onDone} />
    {row.tracking !== 'plain' && (
      <p className="text-xs text-ink-soft">Kept by {row.tracking}: count it on a sheet, under “Counts”.</p>
    )}
  </div>
);

const at = (row: SchemaLevelOut) => ({
  placeId: row.place_id,
  code: row.code,
  version: row.version || null,
});

function Counted({ row }: { row: SchemaLevelOut }) {
  const count = useCountAt();
  const [found, setFound] = useState(String(row.figures.on_hand));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    count.mutate(
      { ...at(row), quantity: whole(found) },
      { onSuccess: () => toast.success(`${found} × ${row.part} at ${row.place}`), onError: complain },
    );
  };
  return (
    <form aria-label={`Count at ${row.place}`} className="flex items-end gap-2" onSubmit={submit}>
      <TextField
        label="Counted"
        inputMode="numeric"
        className="w-20"
        value={found}
        onChange={(event) => setFound(event.target.value)}
        error={whole(found) === null ? 'A number' : undefined}
      />
      <Button type="submit" disabled={whole(found) === null || count.isPending || row.tracking !== 'plain'}>
        Book the count
      </Button>
    </form>
  );
}

function Kept({ row, onDone }: { row: SchemaLevelOut; onDone: () => void }) {
  const setLevel = useSetLevel();
  const [typed, setTyped] = useState({
    shelf: row.shelf,
    least: row.least == null ? '' : String(row.least),
    target: row.target == null ? '' : String(row.target),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const { shelf, least, target } = typed;
    setLevel.mutate(
      { ...at(row), shelf, least: whole(least), target: whole(target) },
      {
        onSuccess: () => {
          toast.success(`Levels of ${row.part} at ${row.place} are saved`);
          onDone();
        },
        onError: complain,
      },
    );
  };
  const field = (name: keyof typeof typed, label: string, className: string) => (
    <TextField
      label={label}
      className={className}
      maxLength={20}
      value={typed[name]}
      onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
    />
  );
  return (
    <form aria-label={`Levels at ${row.place}`} className="flex items-end gap-2" onSubmit={submit}>
      {field('shelf', 'Shelf', 'w-24')}
      {field('least', 'Least', 'w-16')}
      {field('target', 'Target', 'w-16')}
      <Button type="submit" disabled={setLevel.isPending}>
        Save
      </Button>
    </form>
  );
}
