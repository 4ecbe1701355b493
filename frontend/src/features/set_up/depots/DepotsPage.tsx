import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { sentenceOf } from '@/api/client';
import type { SchemaDepotOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Form, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { Notice } from '@/design/Notice';
import { useCompany } from '@/features/company';
import { may, useSession } from '@/features/people';
import { FormAddress, type PickedPlace } from '@/features/roads';
import { useSetDepot } from '../queries';
import { OneDepot } from './OneDepot';

/** Where technicians' days begin and end. */
export function DepotsPage() {
  const company = useCompany();
  const canChange = may(useSession(), 'change_settings');
  const [chosen, setChosen] = useState<number | 'new' | null>(null);
  const depots = company.data?.depots ?? [];
  const depot = depots.find((row) => row.id === chosen) ?? null;
  return (
    <div className="max-w-3xl space-y-4 p-4">
      <header className="flex items-start justify-between gap-3">
        <div>
          <h1 className="text-lg font-semibold">Depots</h1>
          <p className="text-sm text-ink-soft">Where technicians’ days begin and end.</p>
        </div>
        {canChange && <Button onClick={() => setChosen('new')}>New depot</Button>}
      </header>
      {company.isError && <Notice tone="bad">{sentenceOf(company.error)}</Notice>}
      {chosen === 'new' && <DepotForm key="new" depot={null} onDone={() => setChosen(null)} />}
      <ul aria-label="Depots" className="divide-y divide-hairline border-y border-hairline text-sm">
        {depots.map((row) => (
          <li key={row.id} className="py-1.5">
            <div className="flex items-center gap-3">
              <b className={`w-40 ${row.retired ? 'text-ink-soft' : ''}`}>{row.name}</b>
              <span className="flex-1 text-ink-soft">
                {row.address}
                {row.retired && ', retired'}
              </span>
              {canChange && (
                <Button rank="quiet" aria-label={`Change ${row.name}`} onClick={() => setChosen(row.id)}>
                  Change
                </Button>
              )}
            </div>
            {depot?.id === row.id && (
              <>
                <DepotForm key={row.version} depot={row} onDone={() => setChosen(null)} />
                <OneDepot
                  depot={row}
                  others={depots.filter((other) => other.id !== row.id && !other.retired)}
                  onDone={() => setChosen(null)}
                />
              </>
            )}
          </li>
        ))}
        {company.isSuccess && depots.length === 0 && (
          <li className="py-2 text-ink-soft">There is no depot yet. Technicians need one.</li>
        )}
      </ul>
    </div>
  );
}

const schema = z.object({
  name: z.string().trim().min(1, 'A depot needs a name'),
  place: z.custom<PickedPlace>((value) => value !== null, 'Choose the address from the list'),
});

function DepotForm({ depot, onDone }: { depot: SchemaDepotOut | null; onDone: () => void }) {
  const { add, change } = useSetDepot();
  const place = depot && { address: depot.address, lon: depot.lon, lat: depot.lat, area: null };
  const kept = useKeptForm({
    schema,
    values: { name: depot?.name ?? '', place: place as unknown as PickedPlace },
    keep: async ({ name, place: { address, lon, lat } }) => {
      const body = { name, address, lon, lat };
      await (depot
        ? change.mutateAsync({ id: depot.id, version: depot.version, ...body })
        : add.mutateAsync(body));
      toast.success(`${name} is saved`);
      onDone();
    },
  });
  return (
    <Form kept={kept} label="Depot" className="my-2 space-y-2 border-l-2 border-copper pl-3">
      <div className="grid grid-cols-2 gap-2">
        <FormText name="name" label="Name" maxLength={60} />
        <FormAddress name="place" isSite={false} />
      </div>
      {depot && <p className="text-xs text-ink-soft">At another address days begin there from today on.</p>}
      <KeepOrLeave words="Save depot" onLeave={onDone} />
    </Form>
  );
}
