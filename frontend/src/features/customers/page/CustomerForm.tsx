import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaCustomerDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { TextField } from '@/design/Field';
import { keepFile } from '@/design/FileList';
import { Questions } from '@/design/Questions';
import { TagsField } from '@/design/TagsField';
import { useRecordFields, useSetting } from '@/features/company';
import type { Question } from '@/shared/questions';
import { useChangeCustomer } from '../commands';
import { CustomerPicker } from '../CustomerPicker';

/** Change a customer: name, reach, payer, tags, own fields. */
export function CustomerForm({
  customer,
  onDone,
}: {
  customer: SchemaCustomerDetailOut;
  onDone: () => void;
}) {
  const [form, setForm] = useState({
    name: customer.name,
    phone: customer.phone,
    email: customer.email,
    payer: customer.payer as { id: number; name: string } | null,
    payerAddress: customer.payer_address,
    needsPo: customer.needs_po_number,
    tags: customer.tags,
    extra: customer.extra as Record<string, unknown>,
  });
  const set = (changes: Partial<typeof form>) => setForm((old) => ({ ...old, ...changes }));
  const change = useChangeCustomer(customer.id);
  const own = useRecordFields();
  const tags = useSetting<string[]>('tags', []);
  const questions = (own.data?.find((row) => row.record === 'customer')?.questions ??
    []) as unknown as Question[];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate(
      {
        version: customer.version,
        name: form.name,
        phone: form.phone,
        email: form.email,
        contact_name: '',
        payer_id: form.payer?.id ?? null,
        payer_address: form.payer ? '' : form.payerAddress,
        needs_po_number: form.needsPo,
        tags: form.tags,
        extra: form.extra,
      },
      {
        onSuccess: () => {
          toast.success(`${form.name} changed`);
          onDone();
        },
      },
    );
  };
  return (
    <form
      onSubmit={submit}
      className="max-w-2xl space-y-2 border-l-2 border-copper pl-3"
      aria-label="Customer"
    >
      <TextField
        name="name"
        label="Name"
        required
        value={form.name}
        onChange={(e) => set({ name: e.target.value })}
      />
      <div className="grid grid-cols-2 gap-2">
        <TextField label="Phone" value={form.phone} onChange={(e) => set({ phone: e.target.value })} />
        <TextField
          label="E-mail"
          type="email"
          value={form.email}
          onChange={(e) => set({ email: e.target.value })}
        />
        <CustomerPicker
          label="Payer, if it is another customer"
          placeholder="pays for itself"
          chosen={form.payer}
          onChoose={(payer) => set({ payer })}
        />
        <TextField
          name="payer"
          label="or billed to this address"
          disabled={form.payer !== null}
          value={form.payerAddress}
          onChange={(e) => set({ payerAddress: e.target.value })}
        />
      </div>
      <label className="flex items-center gap-1.5 text-sm">
        <input
          type="checkbox"
          checked={form.needsPo}
          onChange={(event) => set({ needsPo: event.target.checked })}
        />
        Wants a purchase-order number on every order
      </label>
      <TagsField tags={tags} chosen={form.tags} onChange={(chosen) => set({ tags: chosen })} />
      <Questions
        questions={questions}
        answers={form.extra}
        onChange={(extra) => set({ extra })}
        onFile={(file) => keepFile('customer', customer.id, file)}
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
