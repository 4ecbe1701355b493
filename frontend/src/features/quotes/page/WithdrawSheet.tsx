import { useState } from 'react';
import type { SchemaQuoteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Sheet } from '@/design/Sheet';
import { LOST_FOR } from '../model';
import { useWithdraw } from '../queries';

/** Why it comes to nothing: for the list of what was lost. */
export function WithdrawSheet({ quote, onClose }: { quote: SchemaQuoteOut; onClose: () => void }) {
  const [why, setWhy] = useState<string>(LOST_FOR[0]);
  const [note, setNote] = useState('');
  const withdraw = useWithdraw(quote.id);
  return (
    <Sheet open onOpenChange={onClose} title={`Give ${quote.number} up`} closeLabel="Close">
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          withdraw.mutate({ version: quote.version, why, note }, { onSuccess: onClose });
        }}
      >
        <p>It can no longer be approved. A new version can be made of it at any time.</p>
        <SelectField label="Why" name="why" value={why} onChange={(event) => setWhy(event.target.value)}>
          {LOST_FOR.map((reason) => (
            <option key={reason}>{reason}</option>
          ))}
        </SelectField>
        <TextField
          label="Note"
          maxLength={300}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <FormError error={withdraw.error} />
        <Button type="submit" rank="danger" disabled={withdraw.isPending}>
          Give it up
        </Button>
      </form>
    </Sheet>
  );
}
