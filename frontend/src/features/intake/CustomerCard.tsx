import { Link } from '@tanstack/react-router';
import { useEffect, useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaCustomerDetailOut, SchemaSiteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useAddSite, useCustomer } from '@/features/customers';
import { may, useSession } from '@/features/people';
import { NewQuoteLink } from '@/features/pricing';
import { Lately } from '@/features/reports';
import { AddressField, type PickedPlace } from '@/features/roads';
import type { Caller } from './model';
import { OpenThere } from './OpenThere';

type Known = Extract<Caller, { kind: 'known' }>;

interface Props {
  caller: Known;
  /** The request that is worked on: it is no other one. */
  requestId: number | null;
  picked: PickedPlace | null;
  adding: boolean;
  onAdding: (adding: boolean) => void;
  onPick: (place: PickedPlace | null) => void;
  onSite: (site: SchemaSiteOut | null) => void;
  onChange: (caller: Known) => void;
  onOther: () => void;
}

/** The customer found: which site, which asset. */
export function CustomerCard(props: Props) {
  const { caller, requestId, adding, onAdding, onSite, onChange } = props;
  const customer = useCustomer(caller.customerId);
  const canMake = may(useSession(), 'make_orders');
  const sites = customer.data?.sites ?? [];
  const chosen =
    sites.find((site) => site.id === caller.siteId) ?? (sites.length === 1 ? sites[0] : undefined);
  useEffect(() => {
    onSite(chosen ?? null);
    if (chosen && chosen.id !== caller.siteId) onChange({ ...caller, siteId: chosen.id });
  }, [chosen, caller, onSite, onChange]);
  if (customer.isError) return <Notice tone="bad">{sentenceOf(customer.error)}</Notice>;
  if (!customer.data) return <p className="text-ink-soft">Fetching…</p>;
  const chooseSite = (siteId: number) => onChange({ ...caller, siteId, assetId: null });
  return (
    <div className="space-y-3">
      <Who customer={customer.data} onOther={props.onOther} />
      <Sites sites={sites} chosenId={chosen?.id} onChoose={chooseSite} />
      {adding ? (
        <NewSite
          customerId={caller.customerId}
          picked={props.picked}
          onPick={props.onPick}
          onClose={() => onAdding(false)}
          onMade={(siteId) => {
            onAdding(false);
            chooseSite(siteId);
          }}
        />
      ) : (
        <Button onClick={() => onAdding(true)}>Another site</Button>
      )}
      {chosen && chosen.assets.length > 0 && (
        <Equipment
          assets={chosen.assets}
          chosenId={caller.assetId}
          onChoose={(assetId) => onChange({ ...caller, assetId })}
        />
      )}
      {chosen && requestId === null && (
        <p className="flex gap-3 text-sm">
          <NewQuoteLink from={whom(caller, chosen.id)} words="Make a quote instead" />
          {canMake && (
            <Link to="/orders/new" search={whom(caller, chosen.id)} className="underline">
              One-off job, all on one form
            </Link>
          )}
        </p>
      )}
      {chosen && <OpenThere siteId={chosen.id} assetId={caller.assetId} requestId={requestId} />}
      {chosen && (
        <Lately {...(caller.assetId === null ? { site_id: chosen.id } : { asset_id: caller.assetId })} />
      )}
    </div>
  );
}

const whom = (caller: Props['caller'], site: number) => ({
  customer: caller.customerId,
  site,
  ...(caller.assetId !== null && { asset: caller.assetId }),
});

function Who({ customer, onOther }: { customer: SchemaCustomerDetailOut; onOther: () => void }) {
  return (
    <div className="flex items-start justify-between gap-2 border-l-4 border-copper pl-3">
      <div>
        <p className="text-base font-semibold">{customer.name}</p>
        <p className="text-sm text-ink-soft">
          {[customer.phone, customer.email].filter(Boolean).join(' · ')}
        </p>
        {customer.contacts.length > 0 && (
          <p className="text-sm text-ink-soft">
            Contacts: {customer.contacts.map((row) => row.name).join(', ')}
          </p>
        )}
      </div>
      <span className="flex flex-col items-end">
        <Link
          to="/customers/$customerId"
          params={{ customerId: String(customer.id) }}
          className="px-3 text-sm whitespace-nowrap underline"
        >
          All about them
        </Link>
        <Button rank="quiet" onClick={onOther}>
          Somebody else
        </Button>
      </span>
    </div>
  );
}

interface SitesProps {
  sites: SchemaCustomerDetailOut['sites'];
  chosenId: number | undefined;
  onChoose: (siteId: number) => void;
}

function Sites({ sites, chosenId, onChoose }: SitesProps) {
  return (
    <fieldset>
      <legend className="mb-1 text-xs font-semibold text-ink-soft">Site</legend>
      <ul className="max-h-56 divide-y divide-hairline overflow-y-auto border-y border-hairline">
        {sites.map((site) => (
          <li key={site.id}>
            <label
              className={`flex cursor-pointer gap-2 px-2 py-1.5 ${site.id === chosenId ? 'bg-copper-wash' : ''}`}
            >
              <input
                type="radio"
                name="site"
                className="mt-1"
                checked={site.id === chosenId}
                onChange={() => onChoose(site.id)}
              />
              <span>
                <span className="font-semibold">{site.name}</span>
                <span className="block text-sm text-ink-soft">
                  {site.address}
                  {site.area === null && <b className="text-bad"> · outside every area</b>}
                </span>
                {site.access_notes && (
                  <span className="block text-xs text-ink-soft">{site.access_notes}</span>
                )}
              </span>
            </label>
          </li>
        ))}
        {sites.length === 0 && <li className="px-2 py-2 text-sm text-ink-soft">No site yet: add one.</li>}
      </ul>
    </fieldset>
  );
}

interface EquipmentProps {
  assets: SchemaCustomerDetailOut['sites'][number]['assets'];
  chosenId: number | null;
  onChoose: (assetId: number | null) => void;
}

const Equipment = ({ assets, chosenId, onChoose }: EquipmentProps) => (
  <fieldset>
    <legend className="mb-1 text-xs font-semibold text-ink-soft">Which equipment?</legend>
    <div className="flex flex-wrap gap-1.5">
      {assets.map((asset) => (
        <Button
          key={asset.id}
          aria-pressed={asset.id === chosenId}
          onClick={() => onChoose(asset.id === chosenId ? null : asset.id)}
        >
          {asset.kind} <span className="figures text-ink-soft">{asset.serial}</span>
        </Button>
      ))}
    </div>
  </fieldset>
);

interface NewSiteProps {
  customerId: number;
  picked: PickedPlace | null;
  onPick: (place: PickedPlace | null) => void;
  onClose: () => void;
  onMade: (siteId: number) => void;
}

function NewSite({ customerId, picked, onPick, onClose, onMade }: NewSiteProps) {
  const [name, setName] = useState('');
  const add = useAddSite();
  return (
    <form
      className="space-y-2 border-l-2 border-hairline pl-3"
      aria-label="New site"
      onSubmit={(event) => {
        event.preventDefault();
        if (!picked) return;
        add.mutate(
          {
            customer_id: customerId,
            name,
            address: picked.address,
            lon: picked.lon,
            lat: picked.lat,
            access_notes: '',
          },
          { onSuccess: (site) => onMade(site.id) },
        );
      }}
    >
      <AddressField picked={picked} onPick={onPick} />
      <TextField
        name="name"
        label="Name of the site"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <FormError error={add.error} />
      <div className="flex gap-2">
        <Button type="submit" disabled={!picked || add.isPending}>
          Save site
        </Button>
        <Button rank="quiet" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
