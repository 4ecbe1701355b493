import { Link, useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaCustomerOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { Suggest } from '@/design/Suggest';
import { useTagWords } from '@/features/company';
import { useCustomerSearch, useLatestCustomers } from '../queries';

/** Find a customer, or see the newest ones. */
export function CustomersPage() {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const search = useCustomerSearch(text.trim());
  const latest = useLatestCustomers();
  const hits = text.trim().length >= 2 ? (search.data ?? []) : [];
  const open = (id: number) =>
    void navigate({ to: '/customers/$customerId', params: { customerId: String(id) } });
  return (
    <div className="h-full overflow-y-auto p-4">
      <header className="mb-3 flex items-center gap-4">
        <h1 className="text-lg font-semibold">Customers</h1>
        <Link to="/customers/files" className="text-sm underline">
          Files in and out
        </Link>
      </header>
      <div className="max-w-3xl">
        <Suggest
          big
          autoFocus
          hideLabel
          label="Find a customer"
          listLabel="Customers found"
          placeholder="Name, phone, e-mail, address, contact or serial number"
          value={text}
          rows={hits}
          keyOf={(hit) => `${hit.customer.id} ${hit.site?.id ?? ''} ${hit.because}`}
          show={(hit) => (
            <>
              <b>{hit.customer.name}</b>
              {hit.site && ` · ${hit.site.name}`} <span className="text-ink-soft">{hit.because}</span>
            </>
          )}
          onType={setText}
          onChoose={(hit) => open(hit.customer.id)}
        />
        {search.isError && <Notice tone="bad">{sentenceOf(search.error)}</Notice>}
        {text.trim().length >= 2 && search.isSuccess && hits.length === 0 && (
          <p className="py-2 text-ink-soft">
            Nobody found by that. New customers are made on the <IntakeLink />, with their first call.
          </p>
        )}
      </div>
      {latest.data?.length === 0 && (
        <p className="mt-3 max-w-2xl text-ink-soft">
          No customer yet. The first call makes one, on the <IntakeLink />; or bring them in from a file.
        </p>
      )}
      {text.trim().length < 2 && latest.data && latest.data.length > 0 && <Newest rows={latest.data} />}
    </div>
  );
}

const IntakeLink = () => (
  <Link to="/intake" className="underline">
    intake page
  </Link>
);

function Newest({ rows }: { rows: SchemaCustomerOut[] }) {
  const tagWords = useTagWords();
  return (
    <table className="mt-4 w-full max-w-5xl text-left text-sm" aria-label="Newest customers">
      <thead className="text-xs text-ink-soft">
        <tr>
          <th className="py-1 pr-3 font-semibold">Newest customers</th>
          <th className="pr-3 font-semibold">Phone</th>
          <th className="pr-3 font-semibold">E-mail</th>
          <th className="font-semibold">Tags</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id} className="border-t border-hairline hover:bg-wash">
            <td className="py-1 pr-3">
              <Link
                to="/customers/$customerId"
                params={{ customerId: String(row.id) }}
                className="font-semibold hover:underline"
              >
                {row.name}
              </Link>
            </td>
            <td className="figures pr-3">{row.phone}</td>
            <td className="pr-3">{row.email}</td>
            <td>{tagWords(row.tags)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
