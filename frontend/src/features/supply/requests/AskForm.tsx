import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { useTechnicians } from '@/features/people';
import { PartChoice } from '@/features/stock';
import { moment } from '@/shared/time';
import { useAsk } from '../queries';

/** The office asks for a technician, as when one calls. */
export function AskForm({ onDone }: { onDone: () => void }) {
  const technicians = useTechnicians().data ?? [];
  const ask = useAsk();
  const [code, setCode] = useState('');
  const [quantity, setQuantity] = useState('1');
  const [technician, setTechnician] = useState('');
  const [day, setDay] = useState('');
  const [must, setMust] = useState(true);
  const [instead, setInstead] = useState(false);
  const [words, setWords] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask.mutate(
      {
        code,
        quantity: Number(quantity),
        technician_id: Number(technician),
        needed_by: day ? moment(day, 8 * 60) : null,
        must,
        substitute_allowed: instead,
        words,
        visit_id: null,
      },
      {
        onSuccess: () => {
          toast.success('It is asked for');
          onDone();
        },
      },
    );
  };
  return (
    <form
      onSubmit={submit}
      aria-label="Ask for a part"
      className="space-y-2 rounded-sm border border-hairline bg-sheet p-3"
    >
      <div className="grid grid-cols-[1fr_6rem_14rem_10rem] gap-2">
        <PartChoice label="Part" value={code} onChoose={setCode} autoFocus />
        <TextField
          label="How many"
          inputMode="numeric"
          value={quantity}
          onChange={(event) => setQuantity(event.target.value)}
        />
        <SelectField label="For" value={technician} onChange={(event) => setTechnician(event.target.value)}>
          <option value="">choose…</option>
          {technicians.map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
        </SelectField>
        <DayField label="Needed by" value={day} onChange={setDay} />
      </div>
      <TextField
        label="What for"
        maxLength={300}
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <div className="flex gap-4 text-sm">
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={must} onChange={(event) => setMust(event.target.checked)} /> the
          work cannot be done without it
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={instead} onChange={(event) => setInstead(event.target.checked)} /> a
          substitute will do
        </label>
      </div>
      <FormError error={ask.error} />
      <Button
        type="submit"
        disabled={!code || !technician || !/^[1-9]\d{0,5}$/.test(quantity) || ask.isPending}
      >
        Ask for it
      </Button>
    </form>
  );
}
