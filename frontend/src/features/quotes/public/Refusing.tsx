import { useState } from 'react';
import { Button } from '@/design/Button';
import { SelectField, TextArea } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { LOST_FOR } from '../model';
import { useRefuse } from './queries';

const OFFERED = LOST_FOR.slice(0, 4);

/** No, and why: it helps us. */
export function Refusing({ address, name }: { address: string; name: string }) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState<string>(OFFERED[0]!);
  const [note, setNote] = useState('');
  const refuse = useRefuse(address);
  if (!open)
    return (
      <Button rank="quiet" className="w-full" onClick={() => setOpen(true)}>
        No, thank you…
      </Button>
    );
  return (
    <fieldset className="space-y-2 border-t border-hairline pt-3" aria-label="Refuse">
      <SelectField label="Why not?" value={why} onChange={(event) => setWhy(event.target.value)}>
        {OFFERED.map((reason) => (
          <option key={reason}>{reason}</option>
        ))}
      </SelectField>
      <TextArea
        label="In your own words"
        rows={2}
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      <FormError error={refuse.error} />
      <Button
        rank="danger"
        disabled={!name.trim() || refuse.isPending}
        onClick={() => refuse.mutate({ name, why, note })}
      >
        Refuse it
      </Button>
    </fieldset>
  );
}
