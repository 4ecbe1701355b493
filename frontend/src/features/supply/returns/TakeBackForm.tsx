import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { PartChoice, PlaceChoice, useChosenPart } from '@/features/stock';
import { useTakeBack } from '../queries';
import { SiteField, type ChosenSite } from '../SiteField';

const WHATS = [
  ['defective', 'defective: back to its supplier'],
  ['kept', 'still good: kept'],
  ['thrown away', 'thrown away'],
] as const;
type What = (typeof WHATS)[number][0];

/** A part that was removed at a site, or turned out defective on a van or in a depot. */
export function TakeBackForm({ onDone }: { onDone: () => void }) {
  const takeBack = useTakeBack();
  const [code, setCode] = useState('');
  const [quantity, setQuantity] = useState('1');
  const [what, setWhat] = useState<What>('defective');
  const [because, setBecause] = useState('');
  const [from, setFrom] = useState<'site' | 'place'>('site');
  const [site, setSite] = useState<ChosenSite | null>(null);
  const [place, setPlace] = useState<number | null>(null);
  const [target, setTarget] = useState<number | null>(null);
  const [piece, setPiece] = useState('');
  const part = useChosenPart(code);
  const tracking = part.data?.tracking;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    takeBack.mutate(
      {
        code,
        quantity: Number(quantity),
        because,
        what,
        site_id: from === 'site' ? (site?.siteId ?? null) : null,
        asset_id: from === 'site' ? (site?.assetId ?? null) : null,
        place_id: from === 'place' ? place : null,
        to_place_id: what === 'kept' ? target : null,
        visit_id: null,
        serial: tracking === 'serial number' ? piece.trim() : '',
        batch: tracking === 'batch' ? piece.trim() : '',
      },
      {
        onSuccess: () => {
          toast.success('It is booked');
          onDone();
        },
      },
    );
  };
  return (
    <form
      onSubmit={submit}
      aria-label="A part came out"
      className="space-y-2 rounded-sm border border-hairline bg-sheet p-3"
    >
      <div className="grid grid-cols-[1fr_6rem_14rem] gap-2">
        <PartChoice label="Part" value={code} onChoose={setCode} autoFocus />
        <TextField
          label="How many"
          inputMode="numeric"
          value={quantity}
          onChange={(event) => setQuantity(event.target.value)}
        />
        <SelectField label="It is" value={what} onChange={(event) => setWhat(event.target.value as What)}>
          {WHATS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
      </div>
      {tracking && tracking !== 'plain' && (
        <TextField
          label={tracking === 'batch' ? 'Batch' : 'Serial number'}
          value={piece}
          onChange={(event) => setPiece(event.target.value)}
        />
      )}
      <div className="grid grid-cols-[14rem_1fr] gap-2">
        <SelectField
          label="It comes from"
          value={from}
          onChange={(event) => setFrom(event.target.value as typeof from)}
        >
          <option value="site">a customer’s site</option>
          <option value="place">a van or a depot</option>
        </SelectField>
        {from === 'site' ? (
          <SiteField value={site} onChoose={setSite} />
        ) : (
          <PlaceChoice label="Which" value={place} onChoose={setPlace} />
        )}
      </div>
      {what === 'kept' && <PlaceChoice label="It is kept at" value={target} onChoose={setTarget} />}
      <TextField
        label="Why it came out"
        maxLength={200}
        value={because}
        onChange={(event) => setBecause(event.target.value)}
      />
      <FormError error={takeBack.error} />
      <Button
        type="submit"
        disabled={!code || !because.trim() || (from === 'site' ? !site : !place) || takeBack.isPending}
      >
        Book it
      </Button>
    </form>
  );
}
