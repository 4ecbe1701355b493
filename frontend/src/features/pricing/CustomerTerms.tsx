import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaCustomerTermsIn } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { price } from '@/shared/money';
import { dayOfAnyYear, moment } from '@/shared/time';
import { SetPrice } from './lists/OneList';
import { useCurrency, useEndPrice, useKeepTerms, useOwnPrices, usePriceLists, useTerms } from './queries';

/** What a customer pays by: its list, its own prices, and why it pays no tax. */
export function CustomerTerms({ customerId }: { customerId: number }) {
  const terms = useTerms(customerId);
  const lists = usePriceLists();
  const [editing, setEditing] = useState(false);
  const canChange = may(useSession(), 'change_customers');
  if (terms.isError) return <Notice tone="bad">{sentenceOf(terms.error)}</Notice>;
  if (!terms.data || !lists.data) return <p className="text-sm text-ink-soft">Fetching…</p>;
  const list = lists.data.find(({ id }) => id === terms.data.list_id);
  const words = [
    list ? `${list.name} list` : 'standard prices',
    terms.data.reads_with_tax ? 'reads prices with tax' : 'reads prices without tax',
    terms.data.exempt_reason &&
      `pays no tax: ${terms.data.exempt_reason} ${terms.data.exempt_number ?? ''}${terms.data.exempt_until ? `, until ${dayOfAnyYear(moment(terms.data.exempt_until, 720))}` : ''}`,
  ];
  return (
    <section aria-label="Pays by" className="space-y-2 text-sm">
      <div className="flex items-center gap-2">
        <h2 className="font-semibold">Pays by</h2>
        {canChange && (
          <Button aria-expanded={editing} onClick={() => setEditing((value) => !value)}>
            Change
          </Button>
        )}
      </div>
      {editing ? (
        <TermsForm customerId={customerId} terms={terms.data} onDone={() => setEditing(false)} />
      ) : (
        <p>{words.filter(Boolean).join(' · ')}</p>
      )}
      <OwnPrices customerId={customerId} />
    </section>
  );
}

interface FormProps {
  customerId: number;
  terms: SchemaCustomerTermsIn;
  onDone: () => void;
}

function TermsForm({ customerId, terms, onDone }: FormProps) {
  const [typed, setTyped] = useState(terms);
  const lists = usePriceLists().data ?? [];
  const keep = useKeepTerms(customerId);
  const set = (changes: Partial<SchemaCustomerTermsIn>) => setTyped((old) => ({ ...old, ...changes }));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const done = () => {
      toast.success('Saved');
      onDone();
    };
    keep.mutate(typed, { onSuccess: done });
  };
  return (
    <form aria-label="Pays by" onSubmit={submit} className="max-w-xl space-y-2 border-l-2 border-copper pl-3">
      <SelectField
        label="List of prices"
        value={typed.list_id ?? ''}
        onChange={(event) => set({ list_id: Number(event.target.value) || null })}
      >
        <option value="">standard prices</option>
        {lists
          .filter((row) => !row.retired || row.id === typed.list_id)
          .map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
      </SelectField>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={typed.reads_with_tax ?? false}
          onChange={(event) => set({ reads_with_tax: event.target.checked })}
        />
        reads prices with tax
      </label>
      <ExemptFields typed={typed} set={set} />
      <FormError error={keep.error} />
      <div className="flex gap-2">
        <Button type="submit" rank="main" disabled={keep.isPending}>
          Save
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

interface ExemptProps {
  typed: SchemaCustomerTermsIn;
  set: (changes: Partial<SchemaCustomerTermsIn>) => void;
}

/** Why no tax is due, by which paper, and until when. */
const ExemptFields = ({ typed, set }: ExemptProps) => (
  <div className="grid grid-cols-[1fr_8rem_9rem] gap-2">
    <TextField
      name="exempt_reason"
      label="Pays no tax, because"
      maxLength={120}
      value={typed.exempt_reason ?? ''}
      onChange={(event) => set({ exempt_reason: event.target.value })}
    />
    <TextField
      label="By number"
      maxLength={60}
      value={typed.exempt_number ?? ''}
      onChange={(event) => set({ exempt_number: event.target.value })}
    />
    <DayField
      label="Until"
      value={typed.exempt_until ?? ''}
      onChange={(day) => set({ exempt_until: day || null })}
    />
  </div>
);

/** Prices that hold for this customer alone. */
function OwnPrices({ customerId }: { customerId: number }) {
  const currency = useCurrency();
  const prices = useOwnPrices(customerId);
  const end = useEndPrice();
  const canChange = may(useSession(), 'change_settings');
  const [adding, setAdding] = useState(false);
  const rows = prices.data ?? [];
  return (
    <div>
      {rows.length > 0 && (
        <ul aria-label="Own prices" className="divide-y divide-hairline border-y border-hairline">
          {rows.map((row) => (
            <li key={row.id} className="flex items-baseline gap-2 py-0.5">
              <span className="flex-1">
                {row.wording}{' '}
                <span className="text-xs text-ink-soft">
                  from {dayOfAnyYear(moment(row.valid_from, 720))}
                  {Number(row.least) > 0 && `, for ${Number(row.least)} and more`}
                </span>
              </span>
              <span className="figures font-semibold">{price(row.price, currency)}</span>
              {canChange && (
                <Button
                  rank="quiet"
                  aria-label={`End the price of ${row.wording}`}
                  onClick={() => end.mutate(row.id)}
                >
                  ✕
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      {canChange &&
        (adding ? (
          <SetPrice holder={{ customer_id: customerId }} />
        ) : (
          <Button rank="quiet" onClick={() => setAdding(true)}>
            Set a price of its own
          </Button>
        ))}
    </div>
  );
}
