import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaAssetOut, SchemaOrderDetailOut } from '@/api/types';
import { Form, FormArea, FormSelect, FormText, FormValue, KeepOrLeave, useKeptForm } from '@/design/form';
import { FormOwnFields, FormTags } from '@/design/formValues';
import { keepFile } from '@/design/FileList';
import { useSetting, useTags } from '@/features/company';
import { CustomerPicker, useCustomer } from '@/features/customers';
import { useChangeOrder } from '../queries';

const BILLINGS = ['billable', 'not billable', 'contract'] as const;
const schema = z.object({
  title: z.string().trim().min(1, 'An order needs a title.'),
  description: z.string(),
  assets: z.array(z.number()),
  payer_id: z.object({ id: z.number(), name: z.string() }).nullable(),
  payer: z.string(),
  contact_name: z.string(),
  contact_phone: z.string(),
  source: z.string(),
  billing: z.enum(BILLINGS),
  po_number: z.string(),
  priority: z.coerce.number<string | number>(),
  tags: z.array(z.string()),
  technician_note: z.string(),
  invoice_text: z.string(),
  extra: z.record(z.string(), z.unknown()),
});

const typed = (order: SchemaOrderDetailOut): z.input<typeof schema> => ({
  title: order.title,
  description: order.description,
  assets: [...(order.asset ? [order.asset] : []), ...order.more_assets].map((row) => row.id),
  payer_id: order.payer as { id: number; name: string } | null,
  payer: order.payer_address,
  contact_name: order.contact_name,
  contact_phone: order.contact_phone,
  source: order.source,
  billing: order.billing as (typeof BILLINGS)[number],
  po_number: order.po_number,
  priority: order.priority,
  tags: order.tags,
  technician_note: order.technician_note,
  invoice_text: order.invoice_text,
  extra: order.extra as Record<string, unknown>,
});

interface Props {
  order: SchemaOrderDetailOut;
  onDone: () => void;
}

/** Change an order's own facts; its visits are changed on the board. */
export function OrderForm({ order, onDone }: Props) {
  const change = useChangeOrder(order.id);
  const tags = useTags().data ?? [];
  const kept = useKeptForm({
    schema,
    values: typed(order),
    keep: async ({ assets, payer_id, payer, ...rest }) => {
      await change.mutateAsync({
        ...rest,
        version: order.version,
        asset_id: assets[0] ?? null,
        more_asset_ids: assets.slice(1),
        payer_id: payer_id?.id ?? null,
        payer_address: payer_id ? '' : payer,
      });
      toast.success(`${order.number} changed`);
      onDone();
    },
  });
  return (
    <Form kept={kept} label="Order" className="max-w-3xl space-y-2 border-l-2 border-copper pl-3">
      <FormText name="title" label="Title" />
      <FormArea name="description" label="What is wanted" rows={3} />
      <div className="grid grid-cols-2 gap-2">
        <FormArea name="technician_note" label="Note to the technician" rows={2} />
        <FormArea name="invoice_text" label="Text on the invoice" rows={2} />
      </div>
      <Particulars order={order} />
      <Payer order={order} />
      <Equipment order={order} />
      <FormTags name="tags" tags={tags} />
      <FormOwnFields
        name="extra"
        questions={order.questions}
        onFile={(file) => keepFile('order', order.id, file)}
      />
      <KeepOrLeave words="Save changes" onLeave={onDone} />
    </Form>
  );
}

function Particulars({ order }: { order: SchemaOrderDetailOut }) {
  const sources = useSetting<string[]>('sources', []);
  const needed = order.customer.needs_po_number ? ' *' : '';
  return (
    <div className="grid grid-cols-3 gap-2">
      <FormText name="contact_name" label="Who to ask for" />
      <FormText name="contact_phone" label="Their phone" />
      <FormSelect name="source" label="Heard of us by">
        {[...new Set([order.source, ...sources])].map((source) => (
          <option key={source}>{source}</option>
        ))}
      </FormSelect>
      <FormSelect name="billing" label="Billing">
        {BILLINGS.map((words) => (
          <option key={words}>{words}</option>
        ))}
      </FormSelect>
      <FormText name="po_number" label={`Purchase-order number${needed}`} />
      <FormSelect name="priority" label="Priority">
        {[1, 2, 3, 4, 5].map((level) => (
          <option key={level}>{level}</option>
        ))}
      </FormSelect>
    </div>
  );
}

const Payer = ({ order }: { order: SchemaOrderDetailOut }) => (
  <div className="grid grid-cols-2 gap-2">
    <FormValue name="payer_id">
      {({ value, onChange }) => (
        <CustomerPicker
          label="Payer, if it is somebody else"
          placeholder={`${order.customer.name} pays`}
          chosen={value as { id: number; name: string } | null}
          onChoose={onChange}
        />
      )}
    </FormValue>
    <FormText name="payer" label="or billed to this address" />
  </div>
);

/** Which equipment it is about, in the order in which it is ticked. */
function Equipment({ order }: { order: SchemaOrderDetailOut }) {
  const customer = useCustomer(order.customer.id);
  const assets = customer.data?.sites.find((site) => site.id === order.site.id)?.assets ?? [];
  return (
    <FormValue name="assets">
      {({ value, onChange }) => (
        <fieldset className="text-sm">
          <legend className="text-xs font-semibold text-ink-soft">
            Equipment: the first is the one it is about
          </legend>
          {assets.map((asset) => (
            <Ticked key={asset.id} asset={asset} chosen={value as number[]} onChange={onChange} />
          ))}
        </fieldset>
      )}
    </FormValue>
  );
}

interface TickedProps {
  asset: SchemaAssetOut;
  chosen: number[];
  onChange: (chosen: number[]) => void;
}

function Ticked({ asset, chosen, onChange }: TickedProps) {
  const on = chosen.includes(asset.id);
  return (
    <label className="mr-4 inline-flex items-center gap-1">
      <input
        type="checkbox"
        checked={on}
        onChange={() => onChange(on ? chosen.filter((id) => id !== asset.id) : [...chosen, asset.id])}
      />
      {asset.kind} {asset.serial}
      {chosen[0] === asset.id && <b className="text-copper">first</b>}
    </label>
  );
}
