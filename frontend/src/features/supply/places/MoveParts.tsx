import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { PartChoice, PlaceChoice, useBook, useChosenPart, usePartName } from '@/features/stock';

const WAYS = [
  { reason: 'transfer', words: 'move from one place to another' },
  { reason: 'receipt', words: 'take in without an order' },
  { reason: 'scrap', words: 'throw away' },
] as const;

interface Typed {
  reason: (typeof WAYS)[number]['reason'];
  code: string;
  quantity: string;
  source: number | null;
  target: number | null;
  pieces: string;
  note: string;
}

const NOTHING: Typed = {
  reason: 'transfer',
  code: '',
  quantity: '1',
  source: null,
  target: null,
  pieces: '',
  note: '',
};

/** Book by hand what was moved, taken in or thrown away. */
export function MoveParts() {
  const [typed, setTyped] = useState(NOTHING);
  const book = useBook();
  const tracking = useChosenPart(typed.code).data?.tracking;
  const nameOf = usePartName();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const { reason, code, quantity, source, target, note } = typed;
    book.mutate(
      {
        reason,
        rows: [{ code, quantity: Number(quantity), ...piecesOf(tracking, typed.pieces) }],
        source_id: reason === 'receipt' ? null : source,
        target_id: reason === 'scrap' ? null : target,
        note,
        key: crypto.randomUUID(),
      },
      {
        onSuccess: () => {
          toast.success(`${quantity} × ${nameOf(code)} booked`);
          setTyped({ ...typed, code: '', quantity: '1', pieces: '' });
        },
      },
    );
  };
  return (
    <form onSubmit={submit} aria-label="Move parts" className="space-y-2 border-t border-hairline pt-3">
      <h2 className="text-sm font-semibold">Book by hand</h2>
      <Fields typed={typed} tracking={tracking} onChange={(change) => setTyped({ ...typed, ...change })} />
      <FormError error={book.error} />
      <Button
        type="submit"
        disabled={!typed.code || !/^[1-9]\d{0,5}$/.test(typed.quantity) || book.isPending}
      >
        Book it
      </Button>
    </form>
  );
}

interface FieldsProps {
  typed: Typed;
  tracking: string | undefined;
  onChange: (change: Partial<Typed>) => void;
}

function Fields({ typed, tracking, onChange }: FieldsProps) {
  const { reason } = typed;
  return (
    <>
      <div className="grid grid-cols-[14rem_1fr_6rem] gap-2">
        <SelectField
          label="What"
          value={reason}
          onChange={(event) => onChange({ reason: event.target.value as Typed['reason'] })}
        >
          {WAYS.map((way) => (
            <option key={way.reason} value={way.reason}>
              {way.words}
            </option>
          ))}
        </SelectField>
        <PartChoice label="Part" value={typed.code} onChoose={(code) => onChange({ code })} />
        <TextField
          label="How many"
          inputMode="numeric"
          value={typed.quantity}
          onChange={(event) => onChange({ quantity: event.target.value })}
        />
      </div>
      {tracking && tracking !== 'plain' && (
        <TextField
          label={tracking === 'batch' ? 'Batch' : 'Serial numbers, with spaces between'}
          value={typed.pieces}
          onChange={(event) => onChange({ pieces: event.target.value })}
        />
      )}
      <div className="grid grid-cols-3 gap-2">
        {reason !== 'receipt' && (
          <PlaceChoice label="From" value={typed.source} onChoose={(source) => onChange({ source })} />
        )}
        {reason !== 'scrap' && (
          <PlaceChoice label="To" value={typed.target} onChoose={(target) => onChange({ target })} />
        )}
        <TextField
          label={reason === 'scrap' ? 'Why' : 'Note'}
          maxLength={200}
          value={typed.note}
          onChange={(event) => onChange({ note: event.target.value })}
        />
      </div>
    </>
  );
}

/** What is typed of single pieces, as the part asks for it. */
function piecesOf(tracking: string | undefined, typed: string) {
  return {
    serials: tracking === 'serial number' ? typed.split(/[\s,;]+/).filter(Boolean) : [],
    batch: tracking === 'batch' ? typed.trim() : '',
  };
}
