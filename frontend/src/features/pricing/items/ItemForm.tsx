import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaItemOut, SchemaTaxCodeOut } from '@/api/types';
import { Form, FormCheck, FormSelect, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { amountText, parseAmount, price } from '@/shared/money';
import { useCurrency, useKeepItem, useUnits } from '../queries';

const KINDS = ['labour', 'part', 'fixed price', 'travel', 'charge', 'fee'] as const;
const HOURS = /^(\d{1,4}([.,]\d{1,3})?)?$/;

/** What is typed; amounts become smallest units, hours thousandths. */
const schemaFor = (currency: string) => {
  const amount = (text: string) => parseAmount(text, currency);
  return z.object({
    kind: z.enum(KINDS),
    wording: z.string().trim().min(1, 'An item needs a wording'),
    unit: z.string().min(1),
    price: z
      .string()
      .refine((text) => amount(text) !== null, 'An amount, like 58.00')
      .transform((text) => amount(text)!),
    cost: z
      .string()
      .refine((text) => !text.trim() || amount(text) !== null, 'An amount, or nothing')
      .transform((text) => (text.trim() ? amount(text) : null)),
    effort: z
      .string()
      .trim()
      .regex(HOURS, 'Hours, like 1.5')
      .transform((text) => (text ? Math.round(Number(text.replace(',', '.')) * 1000) : null)),
    tax: z.string().min(1, 'Choose a tax code'),
    retired: z.boolean(),
  });
};

/** An item as it is typed; of a new one the tax code that is the only one. */
const typedOf = (row: SchemaItemOut | null, currency: string, tax: string) => ({
  kind: row?.kind ?? ('part' as const),
  wording: row?.wording ?? '',
  unit: row?.unit ?? 'C62',
  price: amountText(row?.price, currency),
  cost: amountText(row?.cost, currency),
  effort: row?.effort == null ? '' : String(row.effort / 1000),
  tax: row?.tax ?? tax,
  retired: row?.retired ?? false,
});

interface Props {
  row: SchemaItemOut | null;
  codes: SchemaTaxCodeOut[];
  canChange: boolean;
  onKept: (id: number) => void;
}

/** One entry of the price list. */
export function ItemForm({ row, codes, canChange, onKept }: Props) {
  const currency = useCurrency();
  const units = useUnits().data ?? [];
  const keep = useKeepItem(row);
  const offered = codes.filter((code) => !code.retired || code.key === row?.tax);
  const kept = useKeptForm({
    schema: schemaFor(currency),
    values: typedOf(row, currency, offered.length === 1 ? offered[0]!.key : ''),
    keep: async (read) => {
      const made = await keep.mutateAsync(read);
      toast.success(`${made.wording} is saved`);
      onKept(made.id);
    },
  });
  return (
    <Form kept={kept} label="Item" className="max-w-md space-y-2">
      <fieldset disabled={!canChange} className="space-y-2">
        <FormText name="wording" label="Wording, as it stands on a line" maxLength={200} autoFocus={!row} />
        <div className="grid grid-cols-2 gap-2">
          <FormSelect name="kind" label="Kind">
            {KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </FormSelect>
          <FormSelect name="unit" label="Unit">
            {units.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </FormSelect>
          <FormText name="price" label={`Price without tax, ${currency}`} inputMode="decimal" />
          <FormText name="cost" label={`What it costs us, ${currency}`} inputMode="decimal" />
          <FormSelect name="tax" label="Tax code">
            <option value="">choose…</option>
            {offered.map((code) => (
              <option key={code.key} value={code.key}>
                {code.name} ({code.percent} %)
              </option>
            ))}
          </FormSelect>
          <FormText
            name="effort"
            label="Labour-hours in one"
            hint="People times hours; an hour of labour is one by itself."
            inputMode="decimal"
          />
        </div>
        <WithTax codes={codes} currency={currency} />
        <FormCheck name="retired" words="No longer offered" />
        {canChange && <KeepOrLeave words={row ? 'Save changes' : 'Add to the price list'} />}
      </fieldset>
    </Form>
  );
}

/** What the price comes to with tax and what is left of it, as it is typed. */
function WithTax({ codes, currency }: { codes: SchemaTaxCodeOut[]; currency: string }) {
  const [typed, cost, tax] = useWatch({ name: ['price', 'cost', 'tax'] }) as [string, string, string];
  const net = parseAmount(typed, currency);
  const code = codes.find(({ key }) => key === tax);
  if (net === null || !code) return null;
  const ours = parseAmount(cost, currency);
  return (
    <p className="text-sm text-ink-soft" role="status">
      {price(net + Math.round((net * Number(code.percent)) / 100), currency)} with tax
      {ours !== null &&
        net > 0 &&
        `; ${price(net - ours, currency)} are left, ${Math.round((100 * (net - ours)) / net)} %`}
    </p>
  );
}
