import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaTaxCodeOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { TextField } from '@/design/Field';
import { Form, FormCheck, FormSelect, FormText, FormValue, KeepOrLeave, useKeptForm } from '@/design/form';
import { serverNow } from '@/shared/clock';
import { isoDay } from '@/shared/time';
import { ListAndOne } from '../parts';
import { useKeepTaxCode, useTaxCodes } from '../queries';

/** How things are taxed. */
export function TaxCodes({ canChange }: { canChange: boolean }) {
  const codes = useTaxCodes();
  const [chosen, setChosen] = useState<number | 'new' | null>(null);
  const row = codes.data?.find(({ id }) => id === chosen) ?? null;
  return (
    <ListAndOne
      error={codes.error}
      list={
        <>
          <div className="flex justify-end px-3 py-2">
            {canChange && <Button onClick={() => setChosen('new')}>New tax code</Button>}
          </div>
          <ul aria-label="Tax codes" className="divide-y divide-hairline border-y border-hairline text-sm">
            {codes.data?.map((code) => (
              <li key={code.id} className={code.id === chosen ? 'bg-copper-wash' : ''}>
                <button
                  type="button"
                  aria-current={code.id === chosen}
                  className="grid w-full grid-cols-[1fr_8rem_4rem] gap-2 px-3 py-1 text-left hover:bg-wash"
                  onClick={() => setChosen(code.id)}
                >
                  <b className={code.retired ? 'font-normal text-ink-soft line-through' : 'font-semibold'}>
                    {code.name}
                  </b>
                  <span className="text-ink-soft">{code.category}</span>
                  <span className="figures text-right">{code.percent} %</span>
                </button>
              </li>
            ))}
            {codes.data?.length === 0 && (
              <li className="px-3 py-2 text-ink-soft">There are no tax codes yet.</li>
            )}
          </ul>
        </>
      }
    >
      {(row || chosen === 'new') && (
        <TaxCodeForm
          key={row ? `${row.id} ${row.version}` : 'new'}
          row={row}
          canChange={canChange}
          onKept={setChosen}
        />
      )}
    </ListAndOne>
  );
}

const CATEGORIES = ['standard', 'reduced', 'zero', 'exempt', 'reverse charge', 'outside scope'] as const;
interface Rate {
  percent: string;
  valid_from: string;
}
const schema = z.object({
  name: z.string().trim().min(1, 'A tax code needs a name'),
  category: z.enum(CATEGORIES),
  reason: z.string(),
  rates: z.custom<Rate[]>(),
  retired: z.boolean(),
});

interface Props {
  row: SchemaTaxCodeOut | null;
  canChange: boolean;
  onKept: (id: number) => void;
}

function TaxCodeForm({ row, canChange, onKept }: Props) {
  const keep = useKeepTaxCode(row);
  const kept = useKeptForm({
    schema,
    values: {
      name: row?.name ?? '',
      category: row?.category ?? 'standard',
      reason: row?.reason ?? '',
      rates: (row?.rates ?? []).map((rate) => ({ ...rate, percent: String(rate.percent) })),
      retired: row?.retired ?? false,
    },
    keep: async ({ rates, ...read }) => {
      const made = await keep.mutateAsync({
        ...read,
        rates: rates.map((rate) => ({ ...rate, percent: rate.percent.replace(',', '.') })),
      });
      toast.success(`${made.name} is saved`);
      onKept(made.id);
    },
  });
  return (
    <Form kept={kept} label="Tax code" className="max-w-md space-y-2">
      <fieldset disabled={!canChange} className="space-y-2">
        <FormText name="name" label="Name" maxLength={60} autoFocus={!row} />
        <FormSelect name="category" label="Category">
          {CATEGORIES.map((category) => (
            <option key={category}>{category}</option>
          ))}
        </FormSelect>
        <FormText
          name="reason"
          label="Why no tax is due"
          hint="Needed where something is exempt, reverse charge or outside the scope: documents say it."
          maxLength={120}
        />
        <FormValue name="rates">
          {({ value, onChange, error }) => (
            <Rates rates={value as Rate[]} onChange={onChange} error={error} />
          )}
        </FormValue>
        <FormCheck name="retired" words="No longer offered" />
        {canChange && <KeepOrLeave words={row ? 'Save changes' : 'Add tax code'} />}
      </fieldset>
    </Form>
  );
}

interface RatesProps {
  rates: Rate[];
  onChange: (rates: Rate[]) => void;
  error: string | undefined;
}

/** Rates by the day from which they hold: what was is kept, and what comes is known. */
function Rates({ rates, onChange, error }: RatesProps) {
  const set = (at: number, change: Partial<Rate>) =>
    onChange(rates.map((rate, number) => (number === at ? { ...rate, ...change } : rate)));
  return (
    <fieldset className="space-y-1">
      <legend className="text-xs font-semibold text-ink-soft">Rates</legend>
      {rates.map((rate, at) => (
        <div key={at} className="grid grid-cols-[6rem_10rem_2rem] items-end gap-2">
          <TextField
            label="Percent"
            quiet={at > 0}
            inputMode="decimal"
            value={rate.percent}
            onChange={(event) => set(at, { percent: event.target.value })}
          />
          <DayField
            label="From"
            name={`rate from ${at + 1}`}
            quiet={at > 0}
            value={rate.valid_from}
            onChange={(day) => set(at, { valid_from: day })}
          />
          <Button
            rank="quiet"
            aria-label={`Remove the rate of ${rate.percent} %`}
            onClick={() => onChange(rates.filter((_, number) => number !== at))}
          >
            ✕
          </Button>
        </div>
      ))}
      <Button onClick={() => onChange([...rates, { percent: '', valid_from: isoDay(serverNow()) }])}>
        Add a rate
      </Button>
      {error && (
        <p role="alert" className="text-xs text-bad">
          {error}
        </p>
      )}
    </fieldset>
  );
}
