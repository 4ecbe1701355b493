import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import { Form, FormSelect, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { useChosenPart } from '@/features/stock';
import { FormPart, FormPlace, FormSite } from '../fields';
import { useTakeBack } from '../queries';
import { quantity, siteOf } from '../typed';

const schema = z.object({
  code: z.string().min(1, 'Say which part'),
  quantity,
  what: z.enum(['defective', 'kept', 'thrown away']),
  because: z.string().trim().min(1, 'Say why it came out'),
  from: z.enum(['site', 'place']),
  site: siteOf.nullable(),
  place_id: z.number().nullable(),
  to_place_id: z.number().nullable(),
  serial: z.string(),
  batch: z.string(),
});

const NOTHING = {
  code: '',
  quantity: '1',
  what: 'defective' as const,
  because: '',
  from: 'site' as const,
  site: null,
  place_id: null,
  to_place_id: null,
  serial: '',
  batch: '',
};

/** A part that was removed at a site, or turned out defective on a van or in a depot. */
export function TakeBackForm({ onDone }: { onDone: () => void }) {
  const takeBack = useTakeBack();
  const kept = useKeptForm({
    schema,
    values: NOTHING,
    keep: async ({ from, site, place_id, to_place_id, ...read }) => {
      const atSite = from === 'site';
      await takeBack.mutateAsync({
        ...read,
        visit_id: null,
        site_id: atSite ? (site?.siteId ?? null) : null,
        asset_id: atSite ? (site?.assetId ?? null) : null,
        place_id: atSite ? null : place_id,
        to_place_id: read.what === 'kept' ? to_place_id : null,
      });
      toast.success('It is booked');
      onDone();
    },
  });
  return (
    <Form
      kept={kept}
      label="A part came out"
      className="space-y-2 rounded-sm border border-hairline bg-sheet p-3"
    >
      <div className="grid grid-cols-[1fr_6rem_14rem] gap-2">
        <FormPart name="code" label="Part" autoFocus />
        <FormText name="quantity" label="How many" inputMode="numeric" />
        <FormSelect name="what" label="It is">
          <option value="defective">defective: back to its supplier</option>
          <option value="kept">still good: kept</option>
          <option value="thrown away">thrown away</option>
        </FormSelect>
      </div>
      <Whence />
      <FormText name="because" label="Why it came out" maxLength={200} />
      <KeepOrLeave words="Book it" onLeave={onDone} />
    </Form>
  );
}

/** Where it comes from, which piece it is, and where it is kept. */
function Whence() {
  const [code, from, what] = useWatch({ name: ['code', 'from', 'what'] }) as [string, string, string];
  const tracking = useChosenPart(code).data?.tracking;
  return (
    <>
      {tracking === 'serial number' && <FormText name="serial" label="Serial number" />}
      {tracking === 'batch' && <FormText name="batch" label="Batch" />}
      <div className="grid grid-cols-[14rem_1fr] gap-2">
        <FormSelect name="from" label="It comes from">
          <option value="site">a customer’s site</option>
          <option value="place">a van or a depot</option>
        </FormSelect>
        {from === 'site' ? <FormSite name="site" /> : <FormPlace name="place_id" label="Which" />}
      </div>
      {what === 'kept' && <FormPlace name="to_place_id" label="It is kept at" />}
    </>
  );
}
