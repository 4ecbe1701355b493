import { toast } from 'sonner';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import type { SchemaCustomerDetailOut } from '@/api/types';
import { Form, FormCheck, FormText, FormValue, KeepOrLeave, useKeptForm } from '@/design/form';
import { keepFile } from '@/design/FileList';
import { FormOwnFields, FormTags } from '@/design/formValues';
import { useRecordFields, useTags } from '@/features/company';
import { useChangeCustomer } from '../commands';
import { CustomerPicker } from '../CustomerPicker';

const schema = z.object({
  name: z.string().trim().min(1, 'A customer needs a name.'),
  phone: z.string(),
  email: z.union([z.literal(''), z.email('An e-mail address, like office@example.org')]),
  payer_id: z.object({ id: z.number(), name: z.string() }).nullable(),
  payer: z.string(),
  needs_po_number: z.boolean(),
  tags: z.array(z.string()),
  extra: z.record(z.string(), z.unknown()),
});

interface Props {
  customer: SchemaCustomerDetailOut;
  onDone: () => void;
}

/** Change a customer: name, reach, payer, tags, own fields. */
export function CustomerForm({ customer, onDone }: Props) {
  const change = useChangeCustomer(customer.id);
  const own = useRecordFields().data?.find((row) => row.record === 'customer')?.questions ?? [];
  const tags = useTags().data ?? [];
  const kept = useKeptForm({
    schema,
    values: {
      name: customer.name,
      phone: customer.phone,
      email: customer.email,
      payer_id: customer.payer as { id: number; name: string } | null,
      payer: customer.payer_address,
      needs_po_number: customer.needs_po_number,
      tags: customer.tags,
      extra: customer.extra as Record<string, unknown>,
    },
    keep: async ({ payer_id, payer, ...rest }) => {
      await change.mutateAsync({
        ...rest,
        version: customer.version,
        contact_name: '',
        payer_id: payer_id?.id ?? null,
        payer_address: payer_id ? '' : payer,
      });
      toast.success(`${rest.name} changed`);
      onDone();
    },
  });
  const otherPays = useWatch({ control: kept.form.control, name: 'payer_id' }) !== null;
  return (
    <Form kept={kept} label="Customer" className="max-w-2xl space-y-2 border-l-2 border-copper pl-3">
      <FormText name="name" label="Name" required />
      <div className="grid grid-cols-2 gap-2">
        <FormText name="phone" label="Phone" />
        <FormText name="email" label="E-mail" type="email" />
        <FormValue name="payer_id">
          {({ value, onChange }) => (
            <CustomerPicker
              label="Payer, if it is another customer"
              placeholder="pays for itself"
              chosen={value as { id: number; name: string } | null}
              onChoose={onChange}
            />
          )}
        </FormValue>
        <FormText name="payer" label="or billed to this address" readOnly={otherPays} />
      </div>
      <FormCheck name="needs_po_number" words="Wants a purchase-order number on every order" />
      <FormTags name="tags" tags={tags} />
      <FormOwnFields
        name="extra"
        questions={own}
        onFile={(file) => keepFile('customer', customer.id, file)}
      />
      <KeepOrLeave words="Save changes" onLeave={onDone} />
    </Form>
  );
}
