import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import { Form, FormDay, FormSelect, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { useChosenPart } from '@/features/stock';
import { FormPart, FormPlace, FormSite, FormTechnician } from '../fields';
import { useLend } from '../queries';
import { quantity, siteOf } from '../typed';

const schema = z.object({
  code: z.string().min(1, 'Say what'),
  quantity,
  serial: z.string(),
  source_id: z.number({ error: 'Say from where' }),
  whom: z.enum(['site', 'technician']),
  site: siteOf.nullable(),
  technician_id: z.string().transform((text) => Number(text) || null),
  due: z.string().min(1, 'Say when it is due back'),
  calibrated_until: z.string().transform((text) => text || null),
  note: z.string(),
});

const NOTHING = {
  code: '',
  quantity: '1',
  serial: '',
  source_id: null as unknown as number,
  whom: 'site' as const,
  site: null,
  technician_id: '',
  due: '',
  calibrated_until: '',
  note: '',
};

/** Lend a part or a tool to a site, or to a technician. */
export function LendForm({ onDone }: { onDone: () => void }) {
  const lend = useLend();
  const kept = useKeptForm({
    schema,
    values: NOTHING,
    keep: async ({ whom, site, technician_id, ...read }) => {
      await lend.mutateAsync({
        ...read,
        asset_id: null,
        site_id: whom === 'site' ? (site?.siteId ?? null) : null,
        technician_id: whom === 'technician' ? technician_id : null,
      });
      toast.success('It is lent');
      onDone();
    },
  });
  return (
    <Form
      kept={kept}
      label="Lend something"
      className="space-y-2 rounded-sm border border-hairline bg-sheet p-3"
    >
      <div className="grid grid-cols-[1fr_6rem_14rem] gap-2">
        <FormPart name="code" label="What" autoFocus />
        <FormText name="quantity" label="How many" inputMode="numeric" />
        <FormPlace name="source_id" label="From" />
      </div>
      <Borrower />
      <div className="grid grid-cols-3 gap-2">
        <FormDay name="due" label="Due back" />
        <FormDay name="calibrated_until" label="Calibrated until" />
        <FormText name="note" label="Note" maxLength={200} />
      </div>
      <KeepOrLeave words="Lend it" onLeave={onDone} />
    </Form>
  );
}

/** To whom; and which piece, where the part has serial numbers. */
function Borrower() {
  const [code, whom] = useWatch({ name: ['code', 'whom'] }) as [string, string];
  const tracked = useChosenPart(code).data?.tracking === 'serial number';
  return (
    <>
      {tracked && <FormText name="serial" label="Serial number" />}
      <div className="grid grid-cols-[14rem_1fr] gap-2">
        <FormSelect name="whom" label="To">
          <option value="site">a customer’s site</option>
          <option value="technician">a technician</option>
        </FormSelect>
        {whom === 'site' ? <FormSite name="site" /> : <FormTechnician name="technician_id" label="Whom" />}
      </div>
    </>
  );
}
