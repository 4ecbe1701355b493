import { type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { TextField } from '@/design/Field';
import { NEW_CUSTOMER, Twins, useAddCustomer, useAddSite, useTwins } from '@/features/customers';
import { AddressField, type PickedPlace } from '@/features/roads';
import { useDraft } from './drafts';

interface Props {
  typed: string;
  picked: PickedPlace | null;
  onPick: (place: PickedPlace | null) => void;
  onCancel: () => void;
  onKnown: (customerId: number) => void;
  onMade: (customerId: number, siteId: number) => void;
}

const EMPTY = { name: '', phone: '', email: '', contact: '', site: '', access: '' };
type Form = typeof EMPTY;

/** What was searched for stands where it belongs. */
function begun(typed: string): Form {
  if (/^[\d\s+()-]+$/.test(typed)) return { ...EMPTY, phone: typed };
  return typed.includes('@') ? { ...EMPTY, email: typed } : { ...EMPTY, name: typed };
}

/** Keeps the customer and then the site. */
function useKeepBoth(onMade: Props['onMade']) {
  const addCustomer = useAddCustomer();
  const addSite = useAddSite();
  const keep = async (form: Form, place: PickedPlace) => {
    // A second try after the site failed must not make the customer again.
    const customer =
      addCustomer.data ??
      (await addCustomer.mutateAsync({
        ...NEW_CUSTOMER,
        name: form.name,
        phone: form.phone,
        email: form.email,
        contact_name: form.contact,
      }));
    const site = await addSite.mutateAsync({
      customer_id: customer.id,
      name: form.site,
      address: place.address,
      lon: place.lon,
      lat: place.lat,
      access_notes: form.access,
    });
    onMade(customer.id, site.id);
  };
  return {
    keep,
    error: addCustomer.error ?? addSite.error,
    busy: addCustomer.isPending || addSite.isPending,
  };
}

const AboutSite = ({ form, set }: { form: Form; set: (changes: Partial<Form>) => void }) => (
  <div className="grid grid-cols-3 gap-2">
    <TextField
      label="Who to ask for"
      value={form.contact}
      onChange={(e) => set({ contact: e.target.value })}
    />
    <TextField
      label="Name of the site"
      placeholder="if it has one"
      value={form.site}
      onChange={(e) => set({ site: e.target.value })}
    />
    <TextField
      label="Access"
      placeholder="key, code, parking"
      value={form.access}
      onChange={(e) => set({ access: e.target.value })}
    />
  </div>
);

/** A customer and the first site, without leaving the call. Warns before a second record of the same one is born. */
export function NewCustomer({ typed, picked, onPick, onCancel, onKnown, onMade }: Props) {
  const [form, setForm] = useDraft('customer', () => begun(typed));
  const set = (changes: Partial<Form>) => setForm((old) => ({ ...old, ...changes }));
  const mine = {
    name: form.name.trim(),
    phone: form.phone.trim(),
    email: form.email.trim(),
    address: picked?.address ?? '',
  };
  const twins = useTwins(mine);
  const { keep, error, busy } = useKeepBoth(onMade);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (picked) void keep(form, picked).catch(() => {});
  };
  return (
    <form onSubmit={submit} className="space-y-2" aria-label="New customer">
      <TextField
        name="name"
        label="Customer's name"
        required
        autoFocus
        value={form.name}
        onChange={(e) => set({ name: e.target.value })}
      />
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Phone"
          type="tel"
          value={form.phone}
          onChange={(e) => set({ phone: e.target.value })}
        />
        <TextField
          label="E-mail"
          type="email"
          value={form.email}
          onChange={(e) => set({ email: e.target.value })}
        />
      </div>
      <AddressField picked={picked} onPick={onPick} />
      <Twins mine={mine} twins={twins.data ?? []} onSame={onKnown} />
      <AboutSite form={form} set={set} />
      <FormError error={error} />
      <div className="flex items-center gap-2">
        <Button type="submit" disabled={!form.name.trim() || !picked || busy}>
          Save customer and site
        </Button>
        <Button rank="quiet" onClick={onCancel}>
          Search again
        </Button>
        {picked && form.name.trim() && <span className="text-xs text-ink-soft">Enter saves them</span>}
      </div>
    </form>
  );
}
