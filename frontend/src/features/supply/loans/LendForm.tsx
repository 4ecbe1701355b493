import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import { Form, FormDay, FormSelect, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { useChosenPart } from '@/features/stock';
import { FormPart, FormPlace, FormSite, FormTechnician } from '../fields';
import { useLend } from '../queries';
import { quantity, siteOf } from '../typed';

const typed = z.object({
  what: z.enum(['part', 'equipment']),
  code: z.string(),
  quantity,
  serial: z.string(),
  source_id: z.number().nullable(),
  equipment: siteOf.nullable(),
  whom: z.enum(['site', 'technician']),
  site: siteOf.nullable(),
  technician_id: z.string().transform((text) => Number(text) || null),
  due: z.string().min(1, 'Say when it is due back'),
  calibrated_until: z.string().transform((text) => text || null),
  note: z.string(),
});

type Typed = z.infer<typeof typed>;

/** What each of the two kinds of loans must say, and what of the form it does not use. */
const schema = typed
  .check((read) => {
    const wrong = (path: keyof Typed, message: string) =>
      read.issues.push({ code: 'custom', path: [path], message, input: read.value });
    const { what, code, source_id, equipment, whom, site, technician_id } = read.value;
    if (what === 'part' && !code) wrong('code', 'Say what');
    if (what === 'part' && source_id === null) wrong('source_id', 'Say from where');
    if (what === 'equipment' && !equipment?.assetId) wrong('equipment', 'Say which equipment');
    if (whom === 'site' && !site) wrong('site', 'Say to which site');
    if (whom === 'technician' && !technician_id) wrong('technician_id', 'Say to whom');
  })
  .transform(
    ({ what, code, quantity, serial, source_id, equipment, whom, site, technician_id, ...rest }) => ({
      ...rest,
      ...(what === 'part'
        ? { code, quantity, serial, source_id, asset_id: null }
        : { code: '', quantity: 1, serial: '', source_id: null, asset_id: equipment?.assetId ?? null }),
      site_id: whom === 'site' ? (site?.siteId ?? null) : null,
      technician_id: whom === 'technician' ? technician_id : null,
    }),
  );

const NOTHING = {
  what: 'part' as const,
  code: '',
  quantity: '1',
  serial: '',
  source_id: null,
  equipment: null,
  whom: 'site' as const,
  site: null,
  technician_id: '',
  due: '',
  calibrated_until: '',
  note: '',
};

/** Lend a part, a tool or a piece of equipment to a site, or to a technician. */
export function LendForm({ onDone }: { onDone: () => void }) {
  const lend = useLend();
  const kept = useKeptForm({
    schema,
    values: NOTHING,
    keep: async (read) => {
      await lend.mutateAsync(read);
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
      <Lent />
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

/** What is lent: a part or tool from a place, and which piece where it has serial numbers; or a piece of equipment. */
function Lent() {
  const [code, what] = useWatch({ name: ['code', 'what'] }) as [string, string];
  const tracked = useChosenPart(code).data?.tracking === 'serial number';
  return (
    <div className="grid grid-cols-[14rem_1fr] gap-2">
      <FormSelect name="what" label="Lend">
        <option value="part">a part or tool</option>
        <option value="equipment">a piece of equipment</option>
      </FormSelect>
      {what === 'equipment' ? (
        <FormSite name="equipment" label="Whose equipment: customer, site or address" />
      ) : (
        <div className="grid grid-cols-[1fr_6rem_14rem] gap-2">
          <FormPart name="code" label="What" autoFocus />
          <FormText name="quantity" label="How many" inputMode="numeric" />
          <FormPlace name="source_id" label="From" />
          {tracked && <FormText name="serial" label="Serial number" />}
        </div>
      )}
    </div>
  );
}

/** To whom. */
function Borrower() {
  const whom = useWatch({ name: 'whom' }) as string;
  return (
    <div className="grid grid-cols-[14rem_1fr] gap-2">
      <FormSelect name="whom" label="To">
        <option value="site">a customer’s site</option>
        <option value="technician">a technician</option>
      </FormSelect>
      {whom === 'site' ? <FormSite name="site" /> : <FormTechnician name="technician_id" label="Whom" />}
    </div>
  );
}
