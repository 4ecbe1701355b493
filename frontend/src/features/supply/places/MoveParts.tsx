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
type Reason = (typeof WAYS)[number]['reason'];

const serialsOf = (text: string) => text.split(/[\s,;]+/).filter(Boolean);

/** Book by hand what was moved, taken in or thrown away. */
export function MoveParts() {
  const [reason, setReason] = useState<Reason>('transfer');
  const [code, setCode] = useState('');
  const [quantity, setQuantity] = useState('1');
  const [source, setSource] = useState<number | null>(null);
  const [target, setTarget] = useState<number | null>(null);
  const [pieces, setPieces] = useState('');
  const [note, setNote] = useState('');
  const book = useBook();
  const part = useChosenPart(code);
  const nameOf = usePartName();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    book.mutate(
      {
        reason,
        rows: [{ code, quantity: Number(quantity), ...piecesOf(part.data?.tracking, pieces) }],
        source_id: reason === 'receipt' ? null : source,
        target_id: reason === 'scrap' ? null : target,
        note,
        key: crypto.randomUUID(),
      },
      {
        onSuccess: () => {
          toast.success(`${quantity} × ${nameOf(code)} booked`);
          setCode('');
          setQuantity('1');
          setPieces('');
        },
      },
    );
  };
  return (
    <form onSubmit={submit} aria-label="Move parts" className="space-y-2 border-t border-hairline pt-3">
      <h2 className="text-sm font-semibold">Book by hand</h2>
      <div className="grid grid-cols-[12rem_1fr_6rem] gap-2">
        <SelectField
          label="What"
          value={reason}
          onChange={(event) => setReason(event.target.value as Reason)}
        >
          {WAYS.map((way) => (
            <option key={way.reason} value={way.reason}>
              {way.words}
            </option>
          ))}
        </SelectField>
        <PartChoice label="Part" value={code} onChoose={setCode} />
        <TextField
          label="How many"
          inputMode="numeric"
          value={quantity}
          onChange={(event) => setQuantity(event.target.value)}
        />
      </div>
      <Pieces tracking={part.data?.tracking} value={pieces} onType={setPieces} />
      <div className="grid grid-cols-3 gap-2">
        {reason !== 'receipt' && <PlaceChoice label="From" value={source} onChoose={setSource} />}
        {reason !== 'scrap' && <PlaceChoice label="To" value={target} onChoose={setTarget} />}
        <TextField
          label={reason === 'scrap' ? 'Why' : 'Note'}
          maxLength={200}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </div>
      <FormError error={book.error} />
      <Button type="submit" disabled={!code || !/^[1-9]\d{0,5}$/.test(quantity) || book.isPending}>
        Book it
      </Button>
    </form>
  );
}

/** What is typed of single pieces, as the part asks for it. */
function piecesOf(tracking: string | undefined, typed: string) {
  return {
    serials: tracking === 'serial number' ? serialsOf(typed) : [],
    batch: tracking === 'batch' ? typed.trim() : '',
  };
}

interface PiecesProps {
  tracking: string | undefined;
  value: string;
  onType: (text: string) => void;
}

/** Serial numbers or the batch, where the part asks for them. */
function Pieces({ tracking, value, onType }: PiecesProps) {
  if (!tracking || tracking === 'plain') return null;
  const words = tracking === 'batch' ? 'Batch' : 'Serial numbers, with spaces between';
  return <TextField label={words} value={value} onChange={(event) => onType(event.target.value)} />;
}
