import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaLevelOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { useCountAt, useSetLevel } from '@/features/stock';
import { complain } from '@/shared/complain';

const whole = (text: string) => (/^\d{1,6}$/.test(text.trim()) ? Number(text) : null);

/** How many really lie there, where, and between which levels it is kept. */
export function LevelEditor({ row, onDone }: { row: SchemaLevelOut; onDone: () => void }) {
  const setLevel = useSetLevel();
  const count = useCountAt();
  const [found, setFound] = useState(String(row.figures.on_hand));
  const [shelf, setShelf] = useState(row.shelf);
  const [least, setLeast] = useState(row.least == null ? '' : String(row.least));
  const [target, setTarget] = useState(row.target == null ? '' : String(row.target));
  const at = { placeId: row.place_id, code: row.code };
  const onCount = () =>
    count.mutate(
      { ...at, quantity: whole(found), version: row.version || null },
      {
        onSuccess: () => toast.success(`${found} × ${row.part} at ${row.place}`),
        onError: complain,
      },
    );
  const onLevels = () =>
    setLevel.mutate(
      { ...at, shelf, least: whole(least), target: whole(target), version: row.version || null },
      {
        onSuccess: () => {
          toast.success(`Levels of ${row.part} at ${row.place} are saved`);
          onDone();
        },
        onError: complain,
      },
    );
  return (
    <div className="flex flex-wrap items-end gap-4">
      <form
        aria-label={`Count at ${row.place}`}
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          onCount();
        }}
      >
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
      <form
        aria-label={`Levels at ${row.place}`}
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          onLevels();
        }}
      >
        <TextField
          label="Shelf"
          className="w-24"
          maxLength={20}
          value={shelf}
          onChange={(event) => setShelf(event.target.value)}
        />
        <TextField
          label="Least"
          inputMode="numeric"
          className="w-16"
          value={least}
          onChange={(event) => setLeast(event.target.value)}
        />
        <TextField
          label="Target"
          inputMode="numeric"
          className="w-16"
          value={target}
          onChange={(event) => setTarget(event.target.value)}
        />
        <Button type="submit" disabled={setLevel.isPending}>
          Save
        </Button>
      </form>
      {row.tracking !== 'plain' && (
        <p className="text-xs text-ink-soft">Kept by {row.tracking}: count it on a sheet, under “Counts”.</p>
      )}
    </div>
  );
}
