import { useNavigate, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { Button } from '@/design/Button';
import { TextArea, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { useCustomer } from '@/features/customers';
import { ForWhom, GivenCustomer, JobChoice, SiteChoice, type Whom } from '@/features/intake';
import { useMakeQuote } from './queries';
import type { NewQuoteSearch } from './list/search';

/** A quote begins with whom it is for: found by typing, or new, without leaving the page. */
export function NewQuotePage() {
  const search = useSearch({ from: '/office/quotes/new' }) as NewQuoteSearch;
  const fromRecord = search.request !== undefined || search.order !== undefined;
  const [whom, setWhom] = useState<Whom | null>(
    search.customer === undefined
      ? null
      : { customerId: search.customer, siteId: search.site ?? null, assetId: search.asset ?? null },
  );
  return (
    <main className="mx-auto h-full max-w-2xl space-y-4 overflow-y-auto p-4">
      <h1 className="text-xl font-semibold">New quote</h1>
      {!fromRecord && !whom && <ForWhom onChoose={setWhom} />}
      {(fromRecord || whom) && <About search={search} whom={whom} onAgain={() => setWhom(null)} />}
    </main>
  );
}

interface AboutProps {
  search: NewQuoteSearch;
  whom: Whom | null;
  onAgain: () => void;
}

function About({ search, whom, onAgain }: AboutProps) {
  const navigate = useNavigate();
  const make = useMakeQuote();
  const customer = useCustomer(whom?.customerId ?? null).data;
  const [site, setSite] = useState<number | null>(whom?.siteId ?? null);
  const [job, setJob] = useState<number | null>(null);
  const [title, setTitle] = useState('');
  const [scope, setScope] = useState('');
  const sites = customer?.sites ?? [];
  const begin = () => {
    const asked = {
      customer_id: whom?.customerId ?? null,
      site_id: site ?? (sites.length === 1 ? sites[0]!.id : null),
      asset_id: whom?.assetId ?? null,
      job_type_id: job,
      request_id: search.request ?? null,
      order_id: search.order ?? null,
      title,
      scope,
    };
    const open = (id: number) =>
      void navigate({ to: '/quotes/$quoteId', params: { quoteId: String(id) }, replace: true });
    make.mutate(asked, { onSuccess: ({ id }) => open(id) });
  };
  return (
    <form
      aria-label="New quote"
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        begin();
      }}
    >
      <Given name={customer?.name} search={search} onAgain={onAgain} />
      <SiteChoice sites={sites} site={site} onChange={setSite} />
      <JobChoice
        job={job}
        none={search.request === undefined ? 'none' : 'as the request says'}
        onChange={setJob}
      />
      <TextField
        label="Title"
        placeholder="filled in from what is to be done"
        maxLength={160}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <TextArea
        label="What is to be done, as the customer reads it"
        rows={4}
        value={scope}
        onChange={(event) => setScope(event.target.value)}
      />
      <FormError error={make.error} />
      <Button type="submit" rank="main" disabled={make.isPending}>
        Begin the quote
      </Button>
    </form>
  );
}

interface GivenProps {
  name: string | undefined;
  search: NewQuoteSearch;
  onAgain: () => void;
}

/** What it begins with. */
const Given = ({ name, search, onAgain }: GivenProps) => (
  <>
    {name && <GivenCustomer name={name} onAgain={onAgain} />}
    {search.request !== undefined && <p>Everything the request says is carried over.</p>}
    {search.order !== undefined && <p>For more work on an order: approved, it becomes part of it.</p>}
  </>
);
