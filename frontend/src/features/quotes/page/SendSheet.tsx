import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaQuoteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Sheet } from '@/design/Sheet';
import { useSendQuote } from '../queries';

interface Props {
  quote: SchemaQuoteOut;
  email: string;
  /** Keeps what is typed, and answers with the quote as it is kept. */
  save: () => Promise<SchemaQuoteOut>;
  onClose: () => void;
}

/** By e-mail, on this screen, or on paper. What is shown is frozen. */
export function SendSheet({ quote, email, save, onClose }: Props) {
  const [to, setTo] = useState(email);
  const [failed, setFailed] = useState<unknown>(null);
  const send = useSendQuote(quote.id);
  const before = quote.versions.length > 0;
  const go = async (how: 'e-mail' | 'shown' | 'on paper') => {
    setFailed(null);
    try {
      const kept = await save();
      const sent = await send.mutateAsync({ version: kept.version, how, email: to });
      const [made] = sent.versions;
      toast.success(
        how === 'e-mail' ? `Version ${made!.number} goes to ${to}` : `Version ${made!.number} is made`,
      );
      onClose();
      if (how === 'shown') window.open(`${made!.path}?here=1`, '_blank');
    } catch (error) {
      setFailed(error);
    }
  };
  return (
    <Sheet open onOpenChange={onClose} title={`Show ${quote.number} to the customer`} closeLabel="Close">
      <div className="space-y-3">
        <p>
          What the customer reads is kept as it is now, word for word
          {before && '; the version before can no longer be approved'}. Costs and margins are not in it.
        </p>
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void go('e-mail');
          }}
        >
          <TextField
            label="By e-mail, with an address at which it is read and signed"
            type="email"
            name="email"
            className="flex-1"
            autoFocus
            value={to}
            onChange={(event) => setTo(event.target.value)}
          />
          <Button type="submit" rank="main" disabled={!to.includes('@') || send.isPending}>
            Send it
          </Button>
        </form>
        <div className="flex gap-2">
          <Button disabled={send.isPending} onClick={() => void go('shown')}>
            Read and sign on this screen
          </Button>
          <Button disabled={send.isPending} onClick={() => void go('on paper')}>
            On paper
          </Button>
        </div>
        <FormError error={failed} />
      </div>
    </Sheet>
  );
}
