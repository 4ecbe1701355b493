import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaOrderDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { SelectField, TextArea, TextField } from '@/design/Field';
import { keepFile } from '@/design/FileList';
import { Questions } from '@/design/Questions';
import { TagsField } from '@/design/TagsField';
import { useSetting } from '@/features/company';
import { CustomerPicker, useCustomer } from '@/features/customers';
import type { Question } from '@/shared/questions';
import { useChangeOrder } from '../queries';

type Billing = 'billable' | 'not billable' | 'contract';

/** What the server calls the fields that have another name here. */
const NAMES: Record<string, string> = { poNumber: 'po_number', payerAddress: 'payer' };

/** Change an order's own facts; its visits are changed on the board. */
export function OrderForm({ order, onDone }: { order: SchemaOrderDetailOut; onDone: () => void }) {
  const [form, setForm] = useState({
    title: order.title,
    description: order.description,
    asset: order.asset?.id ?? null,
    more: order.more_assets.map((row) => row.id),
    payer: order.payer as { id: number; name: string } | null,
    payerAddress: order.payer_address,
    contactName: order.contact_name,
    contactPhone: order.contact_phone,
    source: order.source,
    billing: order.billing as Billing,
    poNumber: order.po_number,
    priority: order.priority,
    tags: order.tags,
    technicianNote: order.technician_note,
    invoiceText: order.invoice_text,
    extra: order.extra as Record<string, unknown>,
  });
  const set = (changes: Partial<typeof form>) => setForm((old) => ({ ...old, ...changes }));
  const change = useChangeOrder(order.id);
  const customer = useCustomer(order.customer.id);
  const assets = customer.data?.sites.find((site) => site.id === order.site.id)?.assets ?? [];
  const sources = useSetting<string[]>('sources', []);
  const tags = useSetting<string[]>('tags', []);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate(
      {
        version: order.version,
        title: form.title,
        description: form.description,
        asset_id: form.asset,
        more_asset_ids: form.more.filter((id) => id !== form.asset),
        payer_id: form.payer?.id ?? null,
        payer_address: form.payer ? '' : form.payerAddress,
        contact_name: form.contactName,
        contact_phone: form.contactPhone,
        source: form.source,
        billing: form.billing,
        po_number: form.poNumber,
        priority: form.priority,
        tags: form.tags,
        technician_note: form.technicianNote,
        invoice_text: form.invoiceText,
        extra: form.extra,
      },
      {
        onSuccess: () => {
          toast.success(`${order.number} changed`);
          onDone();
        },
      },
    );
  };
  const text = (
    name: 'title' | 'contactName' | 'contactPhone' | 'poNumber' | 'payerAddress',
    label: string,
  ) => (
    <TextField
      name={NAMES[name] ?? name}
      label={label}
      value={form[name]}
      onChange={(event) => set({ [name]: event.target.value })}
    />
  );
  return (
    <form onSubmit={submit} className="max-w-3xl space-y-2 border-l-2 border-copper pl-3" aria-label="Order">
      {text('title', 'Title')}
      <TextArea
        label="What is wanted"
        rows={3}
        value={form.description}
        onChange={(event) => set({ description: event.target.value })}
      />
      <div className="grid grid-cols-2 gap-2">
        <TextArea
          label="Note to the technician"
          rows={2}
          value={form.technicianNote}
          onChange={(event) => set({ technicianNote: event.target.value })}
        />
        <TextArea
          label="Text on the invoice"
          rows={2}
          value={form.invoiceText}
          onChange={(event) => set({ invoiceText: event.target.value })}
        />
      </div>
      <div className="grid grid-cols-3 gap-2">
        {text('contactName', 'Who to ask for')}
        {text('contactPhone', 'Their phone')}
        <SelectField
          label="Heard of us by"
          value={form.source}
          onChange={(e) => set({ source: e.target.value })}
        >
          {[...new Set([form.source, ...sources])].map((source) => (
            <option key={source}>{source}</option>
          ))}
        </SelectField>
        <SelectField
          name="billing"
          label="Billing"
          value={form.billing}
          onChange={(e) => set({ billing: e.target.value as Billing })}
        >
          <option>billable</option>
          <option>not billable</option>
          <option>contract</option>
        </SelectField>
        {text(
          'poNumber',
          order.customer.needs_po_number ? 'Purchase-order number *' : 'Purchase-order number',
        )}
        <SelectField
          name="priority"
          label="Priority"
          value={form.priority}
          onChange={(event) => set({ priority: Number(event.target.value) })}
        >
          {[1, 2, 3, 4, 5].map((level) => (
            <option key={level}>{level}</option>
          ))}
        </SelectField>
      </div>
      <div className="grid grid-cols-2 gap-2">
        <CustomerPicker
          label="Payer, if it is somebody else"
          placeholder={`${order.customer.name} pays`}
          chosen={form.payer}
          onChoose={(payer) => set({ payer })}
        />
        {text('payerAddress', 'or billed to this address')}
      </div>
      <fieldset className="text-sm">
        <legend className="text-xs font-semibold text-ink-soft">
          Equipment: the first is the one it is about
        </legend>
        {assets.map((asset) => {
          const on = form.asset === asset.id || form.more.includes(asset.id);
          return (
            <label key={asset.id} className="mr-4 inline-flex items-center gap-1">
              <input
                type="checkbox"
                checked={on}
                onChange={() =>
                  on
                    ? set({
                        asset: form.asset === asset.id ? null : form.asset,
                        more: form.more.filter((id) => id !== asset.id),
                      })
                    : form.asset === null
                      ? set({ asset: asset.id })
                      : set({ more: [...form.more, asset.id] })
                }
              />
              {asset.kind} {asset.serial}
              {form.asset === asset.id && <b className="text-copper">first</b>}
            </label>
          );
        })}
      </fieldset>
      <TagsField tags={tags} chosen={form.tags} onChange={(chosen) => set({ tags: chosen })} />
      <Questions
        questions={order.questions as unknown as Question[]}
        answers={form.extra}
        onChange={(extra) => set({ extra })}
        onFile={(file) => keepFile('order', order.id, file)}
      />
      <FormError error={change.error} />
      <div className="flex gap-2">
        <Button type="submit" rank="main" disabled={change.isPending}>
          Keep changes
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
