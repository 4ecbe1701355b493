import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaCustomerDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useMerge } from '../commands';
import { CustomerPicker } from '../CustomerPicker';
import { useCustomer, useTwins } from '../queries';
import { Twins } from '../Twins';

/** Make another customer part of this one: likely twins first, both side by side before anything moves. */
export function MergePanel({ kept, onDone }: { kept: SchemaCustomerDetailOut; onDone: () => void }) {
  const [gone, setGone] = useState<{ id: number; name: string } | null>(null);
  const other = useCustomer(gone?.id ?? null);
  const merge = useMerge();
  const mine = {
    name: kept.name,
    phone: kept.phone,
    email: kept.email,
    address: kept.sites[0]?.address ?? '',
  };
  const twins = useTwins(mine, kept.id);
  const row = other.data;
  const join = ({ id, name }: { id: number; name: string }) =>
    merge.mutate(
      { kept_id: kept.id, gone_id: id },
      {
        onSuccess: () => {
          toast.success(`${name} is now part of ${kept.name}`);
          onDone();
        },
      },
    );
  return (
    <section className="max-w-3xl space-y-2 border-l-2 border-copper pl-3" aria-label="Merge">
      <p className="text-sm">
        Everything of the other customer – sites, contacts, requests, orders – moves to <b>{kept.name}</b>. It
        can be taken apart again. Its price list, terms and own prices move too where {kept.name} has none.
      </p>
      <CustomerPicker label="The other customer" chosen={gone} onChoose={setGone} />
      {!gone && (
        <Twins
          mine={mine}
          twins={twins.data ?? []}
          words="Choose it"
          onSame={(id) =>
            setGone({
              id,
              name: twins.data?.find((twin) => twin.customer.id === id)?.customer.name ?? '',
            })
          }
        />
      )}
      {row && gone && <SideBySide kept={kept} gone={row} />}
      {merge.isError && <Notice tone="bad">{sentenceOf(merge.error)}</Notice>}
      <div className="flex gap-2">
        <Button
          rank="main"
          disabled={!gone || gone.id === kept.id || merge.isPending}
          onClick={() => gone && join(gone)}
        >
          Merge them
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </section>
  );
}

const SideBySide = ({
  kept,
  gone: row,
}: {
  kept: SchemaCustomerDetailOut;
  gone: SchemaCustomerDetailOut;
}) => (
  <table className="text-sm">
    <thead>
      <tr className="text-left">
        <th />
        <th className="pr-4">{kept.name} stays</th>
        <th>{row.name} goes into it</th>
      </tr>
    </thead>
    <tbody>
      {(
        [
          ['Phone', kept.phone, row.phone],
          ['E-mail', kept.email, row.email],
          ['Sites', sites(kept), sites(row)],
          ['Contacts', people(kept), people(row)],
        ] as const
      ).map(([label, one, two]) => (
        <tr key={label} className="border-t border-hairline align-top">
          <td className="pr-3 text-ink-soft">{label}</td>
          <td className="pr-4">{one || '–'}</td>
          <td>{two || '–'}</td>
        </tr>
      ))}
    </tbody>
  </table>
);

const sites = (row: SchemaCustomerDetailOut) => row.sites.map((site) => site.address).join('; ');
const people = (row: SchemaCustomerDetailOut) => row.contacts.map((contact) => contact.name).join(', ');
