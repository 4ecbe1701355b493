import { useState, type FormEvent } from 'react';
import { Problem } from '@/api/client';
import type { SchemaContactIn, SchemaCustomerDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { SelectField, TextField } from '@/design/Field';
import { usePutContact, useRemoveContact } from '../commands';

const EMPTY: SchemaContactIn = {
  id: null,
  version: 0,
  anyway: false,
  name: '',
  role: '',
  phone: '',
  email: '',
  channel: 'text',
  site_id: null,
};

/** The people of a customer, and how they want to be told. */
export function ContactList({
  customer,
  canChange,
}: {
  customer: SchemaCustomerDetailOut;
  canChange: boolean;
}) {
  const [form, setForm] = useState<SchemaContactIn | null>(null);
  const remove = useRemoveContact(customer.id);
  return (
    <section aria-label="Contacts">
      <h3 className="flex items-center gap-2 text-xs font-semibold text-ink-soft">
        Contacts
        {canChange && (
          <button type="button" className="font-normal underline" onClick={() => setForm(EMPTY)}>
            add one
          </button>
        )}
      </h3>
      {form && <ContactForm customer={customer} start={form} onDone={() => setForm(null)} />}
      <ul className="divide-y divide-hairline text-sm">
        {customer.contacts.map((row) => {
          const site = customer.sites.find((one) => one.id === row.site_id);
          return (
            <li key={row.id} className="flex items-start justify-between gap-2 py-1">
              <span>
                <b>{row.name}</b> <span className="text-ink-soft">{row.role}</span>
                <span className="block text-ink-soft">
                  {[row.phone, row.email, site?.name, `told by ${row.channel}`].filter(Boolean).join(' · ')}
                </span>
              </span>
              {canChange && (
                <span className="flex">
                  <Button
                    rank="quiet"
                    onClick={() =>
                      setForm({ ...row, anyway: false, channel: row.channel as SchemaContactIn['channel'] })
                    }
                  >
                    Change
                  </Button>
                  <Button rank="quiet" aria-label={`Remove ${row.name}`} onClick={() => remove.mutate(row)}>
                    ✕
                  </Button>
                </span>
              )}
            </li>
          );
        })}
        {customer.contacts.length === 0 && <li className="py-1 text-ink-soft">Nobody named yet.</li>}
      </ul>
    </section>
  );
}

function ContactForm({
  customer,
  start,
  onDone,
}: {
  customer: SchemaCustomerDetailOut;
  start: SchemaContactIn;
  onDone: () => void;
}) {
  const [form, setForm] = useState(start);
  const put = usePutContact(customer.id);
  const set = (changes: Partial<SchemaContactIn>) => setForm((old) => ({ ...old, ...changes }));
  const twin = put.error instanceof Problem && put.error.code === 'twin';
  const keep = (anyway: boolean) => put.mutate({ ...form, anyway }, { onSuccess: onDone });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep(false);
  };
  return (
    <form onSubmit={submit} className="my-1 space-y-1.5 border-l-2 border-copper pl-2" aria-label="Contact">
      <div className="grid grid-cols-2 gap-1.5">
        <TextField
          name="name"
          label="Name"
          required
          autoFocus
          value={form.name}
          onChange={(e) => set({ name: e.target.value })}
        />
        <TextField label="Role" value={form.role} onChange={(e) => set({ role: e.target.value })} />
        <TextField label="Phone" value={form.phone} onChange={(e) => set({ phone: e.target.value })} />
        <TextField
          label="E-mail"
          type="email"
          value={form.email}
          onChange={(e) => set({ email: e.target.value })}
        />
        <ToldBy form={form} set={set} sites={customer.sites} />
      </div>
      <FormError error={put.error} />
      <Button type="submit" disabled={put.isPending}>
        Save contact
      </Button>
      {twin && (
        <Button disabled={put.isPending} onClick={() => keep(true)}>
          It is somebody else: keep it all the same
        </Button>
      )}
      <Button rank="quiet" onClick={onDone}>
        Cancel
      </Button>
    </form>
  );
}

interface ToldByProps {
  form: SchemaContactIn;
  set: (changes: Partial<SchemaContactIn>) => void;
  sites: SchemaCustomerDetailOut['sites'];
}

/** How somebody is told, and where they are to be found. */
const ToldBy = ({ form, set, sites }: ToldByProps) => (
  <>
    <SelectField
      label="Told by"
      value={form.channel}
      onChange={(e) => set({ channel: e.target.value as SchemaContactIn['channel'] })}
    >
      <option>text</option>
      <option>e-mail</option>
      <option>call</option>
    </SelectField>
    <SelectField
      label="At the site"
      value={form.site_id ?? ''}
      onChange={(e) => set({ site_id: e.target.value ? Number(e.target.value) : null })}
    >
      <option value="">all of them</option>
      {sites.map((site) => (
        <option key={site.id} value={site.id}>
          {site.name}
        </option>
      ))}
    </SelectField>
  </>
);
