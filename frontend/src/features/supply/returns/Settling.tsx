import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaClaimOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { useCurrency } from '@/features/pricing';
import { PlaceChoice } from '@/features/stock';
import { parseAmount } from '@/shared/money';
import { useSettle } from '../queries';

/** What the supplier answered. */
export function Settling({ row }: { row: SchemaClaimOut }) {
  const currency = useCurrency();
  const settle = useSettle();
  const [state, setState] = useState<'credited' | 'replaced' | 'refused'>('credited');
  const [credit, setCredit] = useState('');
  const [place, setPlace] = useState<number | null>(null);
  const [serials, setSerials] = useState('');
  const [says, setSays] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    settle.mutate(
      {
        id: row.id,
        version: row.version,
        state,
        says,
        credit: state === 'credited' ? parseAmount(credit, currency) : null,
        place_id: state === 'replaced' ? place : null,
        serials: state === 'replaced' ? serials.split(/[\s,;]+/).filter(Boolean) : [],
      },
      { onSuccess: () => toast.success(`${row.part}: ${state}`) },
    );
  };
  return (
    <form onSubmit={submit} aria-label={`Answer for ${row.part}`} className="space-y-2">
      <div className="flex flex-wrap items-end gap-2">
        <SelectField
          label="They"
          className="w-40"
          value={state}
          onChange={(event) => setState(event.target.value as typeof state)}
        >
          <option value="credited">credit it</option>
          <option value="replaced">replaced it</option>
          <option value="refused">refuse it</option>
        </SelectField>
        {state === 'credited' && (
          <TextField
            label={`Credit, ${currency}`}
            inputMode="decimal"
            className="w-28"
            value={credit}
            onChange={(event) => setCredit(event.target.value)}
          />
        )}
        {state === 'replaced' && (
          <>
            <PlaceChoice label="The new one was put" value={place} onChoose={setPlace} />
            {row.serial && (
              <TextField
                label="Its serial number"
                value={serials}
                onChange={(event) => setSerials(event.target.value)}
              />
            )}
          </>
        )}
        <TextField
          label="What they say"
          className="w-64"
          maxLength={200}
          value={says}
          onChange={(event) => setSays(event.target.value)}
        />
        <Button type="submit" disabled={settle.isPending}>
          Settle it
        </Button>
      </div>
      <FormError error={settle.error} />
    </form>
  );
}
