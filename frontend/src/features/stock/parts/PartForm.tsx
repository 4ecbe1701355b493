import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaPartRecordOut } from '@/api/types';
import { Form, FormCheck, FormSelect, FormText, FormValue, KeepOrLeave, useKeptForm } from '@/design/form';
import { useCurrency, useItems, useUnits } from '@/features/pricing';
import { amountText, parseAmount } from '@/shared/money';
import { useKeepPart, useSuppliers } from '../queries';
import { SubstitutesField, type Instead } from './SubstitutesField';

const TRACKING = ['plain', 'batch', 'serial number'] as const;

/** What is typed; amounts become smallest units. */
const schemaFor = (currency: string) =>
  z.object({
    name: z.string().trim().min(1, 'A part needs a name'),
    number: z.string(),
    unit: z.string().min(1),
    supplier_id: z.string().transform((text) => Number(text) || null),
    supplier_number: z.string(),
    cost: z
      .string()
      .refine((text) => !text.trim() || (parseAmount(text, currency) ?? -1) >= 0, 'An amount, or nothing')
      .transform((text) => (text.trim() ? parseAmount(text, currency) : null)),
    item: z.string(),
    gtin: z.string(),
    tracking: z.enum(TRACKING),
    hazardous: z.boolean(),
    oversized: z.boolean(),
    fits: z.string().transform((text) =>
      text
        .split(/[\n,]/)
        .map((word) => word.trim())
        .filter(Boolean),
    ),
    warranty_months: z
      .string()
      .regex(/^\d{0,3}$/, 'Months, like 24')
      .transform((text) => Number(text) || null),
    retired: z.boolean(),
    substitutes: z.array(z.object({ code: z.string(), rank: z.number(), both_ways: z.boolean() })),
  });

const typedOf = (row: SchemaPartRecordOut | null, currency: string) => ({
  name: row?.name ?? '',
  number: row?.number ?? '',
  unit: row?.unit ?? 'C62',
  supplier_id: String(row?.supplier_id ?? ''),
  supplier_number: row?.supplier_number ?? '',
  cost: amountText(row?.cost, currency),
  item: row?.item ?? '',
  gtin: row?.gtin ?? '',
  tracking: row?.tracking ?? ('plain' as const),
  hazardous: row?.hazardous ?? false,
  oversized: row?.oversized ?? false,
  fits: (row?.fits ?? []).join(', '),
  warranty_months: row?.warranty_months ? String(row.warranty_months) : '',
  retired: row?.retired ?? false,
  substitutes: (row?.substitutes ?? []).map(({ code, rank, both_ways }): Instead => ({
    code,
    rank,
    both_ways,
  })),
});

interface Props {
  row: SchemaPartRecordOut | null;
  canChange: boolean;
  onKept: (code: string) => void;
  onLeave?: () => void;
}

/** What is known of a part. */
export function PartForm(props: Props) {
  const lists = [useUnits(), useSuppliers(), useItems()];
  // A choice that is drawn before what can be chosen would lose what is chosen.
  if (lists.some((list) => list.isPending)) return <p className="text-sm text-ink-soft">One moment…</p>;
  return <Facts {...props} />;
}

function Facts({ row, canChange, onKept, onLeave }: Props) {
  const currency = useCurrency();
  const keep = useKeepPart(row);
  const kept = useKeptForm({
    schema: schemaFor(currency),
    values: typedOf(row, currency),
    keep: async (read) => {
      const made = await keep.mutateAsync(read);
      toast.success(`${made.name} is saved`);
      onKept(made.code);
    },
  });
  return (
    <Form kept={kept} label="Part" className="space-y-2">
      <fieldset disabled={!canChange} className="space-y-2">
        <FormText name="name" label="Name" maxLength={80} autoFocus={!row} />
        <div className="grid grid-cols-2 gap-2">
          <FormText name="number" label="Number" hint="Left empty, the next one is given." maxLength={40} />
          <FormText name="gtin" label="GTIN on the package" inputMode="numeric" maxLength={20} />
          <Choices row={row} currency={currency} />
        </div>
        <FormText
          name="fits"
          label="Fits these models, with commas between"
          hint="Make and model, like Norrvik T4."
        />
        <FormValue name="substitutes">
          {({ value, onChange, error }) => (
            <SubstitutesField
              own={row?.code ?? ''}
              rows={value as Instead[]}
              onChange={onChange}
              error={error}
            />
          )}
        </FormValue>
        <div className="flex flex-wrap gap-4">
          <FormCheck name="hazardous" words="Hazardous" />
          <FormCheck name="oversized" words="Oversized: does not fit on every van" />
          <FormCheck name="retired" words="No longer used" />
        </div>
        {canChange && (
          <KeepOrLeave words={row ? 'Save changes' : 'Add the part'} {...(onLeave ? { onLeave } : {})} />
        )}
      </fieldset>
    </Form>
  );
}

/** Unit, supplier, cost, price, and how pieces are told apart. */
function Choices({ row, currency }: { row: SchemaPartRecordOut | null; currency: string }) {
  const units = useUnits().data ?? [];
  const suppliers = useSuppliers().data ?? [];
  const items = (useItems().data ?? []).filter(
    (item) => item.kind === 'part' && (!item.retired || item.key === row?.item),
  );
  return (
    <>
      <FormSelect name="supplier_id" label="Supplier">
        <option value="">none</option>
        {suppliers
          .filter((one) => !one.retired || one.id === row?.supplier_id)
          .map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
      </FormSelect>
      <FormText name="supplier_number" label="Their number" maxLength={60} />
      <FormText name="cost" label={`What one costs us on average, ${currency}`} inputMode="decimal" />
      <FormSelect name="item" label="Sold as, on the price list">
        <option value="">not sold by the piece</option>
        {items.map((item) => (
          <option key={item.key} value={item.key}>
            {item.wording}
          </option>
        ))}
      </FormSelect>
      <FormSelect name="unit" label="Unit">
        {units.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </FormSelect>
      <FormSelect
        name="tracking"
        label="Pieces are told apart by"
        disabled={row?.moved ?? false}
        hint={row?.moved ? 'It has been moved already, so this stays.' : undefined}
      >
        <option value="plain">nothing</option>
        <option value="batch">batch</option>
        <option value="serial number">serial number</option>
      </FormSelect>
      <FormText name="warranty_months" label="Warranty, months" inputMode="numeric" />
    </>
  );
}
