import { useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { useCustomer } from '@/features/customers';
import { may, useSession } from '@/features/people';
import { SiteChoice } from '../Choices';
import { ForWhom, GivenCustomer, type Whom } from '../ForWhom';
import { OneOffForm } from './OneOffForm';

/** A job that is agreed already, all of it on one form: what, for how much, by how many, over how many days. */
export function OneOffPage() {
  const search = useSearch({ from: '/office/orders/new' });
  const [whom, setWhom] = useState<Whom | null>(
    search.customer === undefined
      ? null
      : { customerId: search.customer, siteId: search.site ?? null, assetId: search.asset ?? null },
  );
  if (!may(useSession(), 'make_orders'))
    return <p className="p-4 text-ink-soft">Your role sees orders and does not make them.</p>;
  return (
    <main className="h-full space-y-3 overflow-y-auto px-4 pt-4">
      <h1 className="text-lg font-semibold">One-off job</h1>
      {whom ? (
        <At whom={whom} onChange={setWhom} />
      ) : (
        <div className="max-w-2xl">
          <ForWhom onChoose={setWhom} />
        </div>
      )}
    </main>
  );
}

interface AtProps {
  whom: Whom;
  onChange: (whom: Whom | null) => void;
}

/** Where it is, before anything else: prices and areas hang on it. */
function At({ whom, onChange }: AtProps) {
  const customer = useCustomer(whom.customerId).data;
  const sites = customer?.sites ?? [];
  const site = sites.find((row) => row.id === whom.siteId) ?? (sites.length === 1 ? sites[0] : undefined);
  return (
    <>
      <div className="flex max-w-3xl flex-wrap items-end gap-x-4 gap-y-2">
        <GivenCustomer name={customer?.name} onAgain={() => onChange(null)} />
        {sites.length > 1 ? (
          <div className="flex-1">
            <SiteChoice
              sites={sites}
              site={site?.id ?? null}
              onChange={(siteId) => onChange({ ...whom, siteId, assetId: null })}
            />
          </div>
        ) : (
          site && <p className="text-sm text-ink-soft">{`${site.name}, ${site.address}`}</p>
        )}
      </div>
      {customer && sites.length === 0 && (
        <p role="alert" className="text-sm text-bad">
          This customer has no site yet: add one on the customer’s page first.
        </p>
      )}
      {customer && site && (
        <OneOffForm key={customer.id} customer={customer} site={site} assetId={whom.assetId} />
      )}
    </>
  );
}
