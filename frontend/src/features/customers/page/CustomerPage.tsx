import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaCustomerDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FileList } from '@/design/FileList';
import { Notice } from '@/design/Notice';
import { Timeline } from '@/design/Timeline';
import { rowsOf } from '@/shared/pages';
import { useTagWords } from '@/features/company';
import { may, useSession } from '@/features/people';
import { CustomerTerms, QuotesOf } from '@/features/pricing';
import { RegionMap } from '@/features/roads';
import { useAddNote, useUndoMerge } from '../commands';
import { useCustomer, useCustomerHistory } from '../queries';
import { ContactList } from './ContactList';
import { CustomerForm } from './CustomerForm';
import { MergePanel } from './MergePanel';
import { SiteCard } from './SiteCard';
import { WorkOfCustomer } from './WorkOfCustomer';

/** All about a customer: sites, contacts, equipment, requests, orders, notes. */
export function CustomerPage() {
  const id = Number(useParams({ from: '/office/customers/$customerId' }).customerId);
  const customer = useCustomer(id);
  const canChange = may(useSession(), 'change_customers');
  const [mode, setMode] = useState<Mode>(null);
  if (customer.isError) return <Notice tone="bad">{sentenceOf(customer.error)}</Notice>;
  const row = customer.data;
  if (!row) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_24rem]">
      <div className="min-h-0 space-y-4 overflow-y-auto p-4">
        {row.merged_into && <MergedInto into={row.merged_into} />}
        <Head row={row} canChange={canChange && !row.merged_into} mode={mode} onMode={setMode} />
        {row.merge && canChange && <LastMerge merge={row.merge} />}
        {mode === 'edit' && <CustomerForm key={row.version} customer={row} onDone={() => setMode(null)} />}
        {mode === 'merge' && <MergePanel kept={row} onDone={() => setMode(null)} />}
        <section aria-label="Sites" className="space-y-2">
          <h2 className="text-sm font-semibold">Sites and equipment · {row.sites.length}</h2>
          {row.sites.map((site) => (
            <SiteCard
              key={site.id}
              customerId={row.id}
              site={site}
              canChange={canChange}
              alone={row.sites.length === 1}
            />
          ))}
          {row.sites.length === 0 && <p className="text-sm text-ink-soft">No site yet.</p>}
        </section>
        <CustomerTerms customerId={id} />
        <QuotesOf about="customer" id={id} />
        <WorkOfCustomer customerId={id} />
      </div>
      <Beside row={row} canChange={canChange} />
    </div>
  );
}

/** What is open over the customer: its form, or the merging of another one. */
type Mode = 'edit' | 'merge' | null;

const MergedInto = ({ into }: { into: NonNullable<SchemaCustomerDetailOut['merged_into']> }) => (
  <Notice tone="warn">
    Merged into{' '}
    <Link to="/customers/$customerId" params={{ customerId: String(into.id) }} className="underline">
      {into.name}
    </Link>
    : everything is there.
  </Notice>
);

interface HeadProps {
  row: SchemaCustomerDetailOut;
  canChange: boolean;
  mode: Mode;
  onMode: (mode: Mode) => void;
}

function Head({ row, canChange, mode, onMode }: HeadProps) {
  const tagWords = useTagWords();
  const canMake = may(useSession(), 'make_orders');
  const toggle = (wanted: Mode) => () => onMode(mode === wanted ? null : wanted);
  return (
    <header className="flex items-start justify-between gap-3">
      <div>
        <h1 className="text-xl font-semibold">{row.name}</h1>
        <p className="text-ink-soft">{[row.phone, row.email].filter(Boolean).join(' · ')}</p>
        <p className="text-sm">{payerWords(row)}</p>
        {row.tags.length > 0 && <p className="text-sm text-ink-soft">Tags: {tagWords(row.tags)}</p>}
      </div>
      {canChange && (
        <div className="flex flex-wrap gap-1.5">
          <Link
            to="/intake"
            search={{ customer: row.id }}
            className="inline-flex min-h-8 items-center rounded-sm border border-copper bg-copper px-3 text-sm text-copper-ink"
          >
            New request
          </Link>
          {canMake && (
            <Link
              to="/orders/new"
              search={{ customer: row.id }}
              className="inline-flex min-h-8 items-center rounded-sm border border-hairline bg-sheet px-3 text-sm"
            >
              One-off job
            </Link>
          )}
          <Button aria-expanded={mode === 'edit'} onClick={toggle('edit')}>
            Change
          </Button>
          <Button aria-expanded={mode === 'merge'} onClick={toggle('merge')}>
            Merge another into it
          </Button>
        </div>
      )}
    </header>
  );
}

function LastMerge({ merge }: { merge: NonNullable<SchemaCustomerDetailOut['merge']> }) {
  const undo = useUndoMerge();
  return (
    <Notice>
      {merge.gone.name} was merged into this customer by {merge.by}.{' '}
      <Button
        disabled={undo.isPending}
        onClick={() =>
          undo.mutate(merge.id, {
            onSuccess: () => toast.success(`${merge.gone.name} is a customer of its own again`),
            onError: (error) => toast.error(sentenceOf(error)),
          })
        }
      >
        Take them apart again
      </Button>
    </Notice>
  );
}

function Beside({ row, canChange }: Pick<HeadProps, 'row' | 'canChange'>) {
  const history = useCustomerHistory(row.id);
  const note = useAddNote(row.id);
  return (
    <aside className="min-h-0 space-y-4 overflow-y-auto border-l border-hairline bg-sheet p-4">
      <div className="h-48 border border-hairline">
        <RegionMap
          label="Sites of the customer"
          marks={row.sites.map((site) => ({ lon: site.lon, lat: site.lat, label: site.name }))}
        />
      </div>
      <ContactList customer={row} canChange={canChange} />
      <FileList record="customer" id={row.id} canAdd={canChange} />
      <Timeline
        showRecord
        entries={rowsOf(history.data)}
        older={history}
        onNote={canChange ? (text) => note.mutateAsync(text) : undefined}
      />
    </aside>
  );
}

function payerWords(row: SchemaCustomerDetailOut): string {
  const payer = row.payer
    ? `${row.payer.name} pays.`
    : row.payer_address
      ? `Billed to ${row.payer_address}.`
      : 'Pays for itself.';
  return row.needs_po_number ? `${payer} Wants a purchase-order number on every order.` : payer;
}
