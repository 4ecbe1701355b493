import { useState, type FormEvent } from 'react';
import type { SchemaChoiceOut, SchemaPresentedOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { price } from '@/shared/money';
import { SignaturePad } from '@/design/SignaturePad';
import { useApprove, useChoice } from './queries';
import { Refusing } from './Refusing';

interface Props {
  address: string;
  quote: SchemaPresentedOut;
  option: string;
  ticked: string[];
}

/** The total of what was chosen, and the name under it. What is signed is what is read here, to the cent. */
export function Signing({ address, quote, option, ticked }: Props) {
  const choice = useChoice(address, { option, ticked }, true);
  const approve = useApprove(address);
  const [name, setName] = useState(quote.contact);
  const [accepts, setAccepts] = useState(false);
  const [drawing, setDrawing] = useState<string | null>(null);
  const total = choice.isPlaceholderData ? undefined : choice.data;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!total) return;
    approve.mutate({
      option,
      ticked,
      name,
      drawing,
      digest: quote.digest,
      gross: total.totals.gross,
      accepts_terms: accepts,
    });
  };
  return (
    <form aria-label="Approve" className="space-y-3 border-2 border-ink p-4" onSubmit={submit}>
      <Total quote={quote} option={option} total={total} />
      <TextField
        name="name"
        label="Your name"
        autoComplete="name"
        required
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <SignaturePad label="Sign here, if you like" onDraw={setDrawing} />
      <label className="flex min-h-12 items-center gap-2">
        <input
          type="checkbox"
          name="accepts_terms"
          className="size-5"
          checked={accepts}
          onChange={(event) => setAccepts(event.target.checked)}
        />
        I accept the terms above.
      </label>
      <FormError error={approve.error ?? choice.error} />
      <Button
        type="submit"
        rank="main"
        size="thumb"
        className="w-full"
        disabled={!total || !accepts || !name.trim() || approve.isPending}
      >
        Approve it
      </Button>
      <Refusing address={address} name={name} />
    </form>
  );
}

interface TotalProps {
  quote: SchemaPresentedOut;
  option: string;
  total: SchemaChoiceOut | undefined;
}

/** What is signed, to the cent. */
function Total({ quote, option, total }: TotalProps) {
  const way = quote.options.find(({ key }) => key === option);
  return (
    <p className="text-lg">
      {way?.name ? <b>{way.name}: </b> : null}
      <b className="figures" role="status">
        {total ? price(total.totals.gross, quote.currency) : '…'}
      </b>{' '}
      with tax
      {total && total.deposit > 0 && (
        <span className="block text-sm">{price(total.deposit, quote.currency)} of it before work begins</span>
      )}
    </p>
  );
}
