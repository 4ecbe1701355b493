import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaClaimOut } from '@/api/types';
import { Form, FormSelect, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { useCurrency } from '@/features/pricing';
import { parseAmount } from '@/shared/money';
import { FormPlace } from '../fields';
import { useSettle } from '../queries';
import { serialsOf } from '../typed';

const schemaFor = (currency: string) =>
  z.object({
    state: z.enum(['credited', 'replaced', 'refused']),
    credit: z.string().transform((text) => (text.trim() ? parseAmount(text, currency) : null)),
    place_id: z.number().nullable(),
    serials: z.string().transform(serialsOf),
    says: z.string(),
  });

/** What the supplier answered. */
export function Settling({ row }: { row: SchemaClaimOut }) {
  const currency = useCurrency();
  const settle = useSettle();
  const kept = useKeptForm({
    schema: schemaFor(currency),
    values: { state: 'credited' as const, credit: '', place_id: null, serials: '', says: '' },
    keep: async ({ state, credit, place_id, serials, says }) => {
      const at = { id: row.id, version: row.version };
      await settle.mutateAsync({
        ...at,
        state,
        says,
        credit: state === 'credited' ? credit : null,
        place_id: state === 'replaced' ? place_id : null,
        serials: state === 'replaced' ? serials : [],
      });
      toast.success(`${row.part}: ${state}`);
    },
  });
  return (
    <Form kept={kept} label={`Answer for ${row.part}`} className="space-y-2">
      <div className="flex flex-wrap items-end gap-2">
        <FormSelect name="state" label="They" className="w-40">
          <option value="credited">credit it</option>
          <option value="replaced">replaced it</option>
          <option value="refused">refuse it</option>
        </FormSelect>
        <Answer bySerial={row.serial !== ''} currency={currency} />
        <FormText name="says" label="What they say" className="w-64" maxLength={200} />
        <KeepOrLeave words="Settle it" />
      </div>
    </Form>
  );
}

/** What goes with the answer: how much, or where the new one was put. */
function Answer({ bySerial, currency }: { bySerial: boolean; currency: string }) {
  const state = useWatch({ name: 'state' }) as string;
  if (state === 'credited')
    return <FormText name="credit" label={`Credit, ${currency}`} inputMode="decimal" className="w-28" />;
  if (state !== 'replaced') return null;
  return (
    <>
      <FormPlace name="place_id" label="The new one was put" />
      {bySerial && <FormText name="serials" label="Its serial number" />}
    </>
  );
}
