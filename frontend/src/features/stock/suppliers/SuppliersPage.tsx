import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { sentenceOf } from '@/api/client';
import type { SchemaSupplierOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Form, FormCheck, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { useKeepSupplier, useSuppliers } from '../queries';

/** Whom parts are bought from. */
export function SuppliersPage() {
  const suppliers = useSuppliers();
  const canChange = may(useSession(), 'order_parts');
  const [chosen, setChosen] = useState<number | 'new' | null>(null);
  const rows = suppliers.data ?? [];
  return (
    <div className="max-w-4xl space-y-4 p-4">
      <header className="flex items-center justify-between">
        <h1 className="text-lg font-semibold">Suppliers</h1>
        {canChange && <Button onClick={() => setChosen('new')}>New supplier</Button>}
      </header>
      {suppliers.isError && <Notice tone="bad">{sentenceOf(suppliers.error)}</Notice>}
      {chosen === 'new' && <SupplierForm row={null} onDone={() => setChosen(null)} />}
      {suppliers.isSuccess && rows.length === 0 && (
        <p className="text-sm text-ink-soft">No supplier yet. Parts are ordered from them.</p>
      )}
      <ul aria-label="Suppliers" className="divide-y divide-hairline border-y border-hairline text-sm">
        {rows.map((row) => (
          <li key={row.id} className="py-1.5">
            <div className="flex items-center gap-3">
              <b className={`w-56 ${row.retired ? 'text-ink-soft line-through' : ''}`}>{row.name}</b>
              <span className="flex-1 text-ink-soft">
                {[
                  row.email,
                  row.phone,
                  `delivers in ${row.days} days`,
                  row.our_number && `knows us as ${row.our_number}`,
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </span>
              <span className="figures">{row.parts} parts</span>
              {canChange && (
                <Button rank="quiet" aria-label={`Change ${row.name}`} onClick={() => setChosen(row.id)}>
                  Change
                </Button>
              )}
            </div>
            {chosen === row.id && <SupplierForm key={row.version} row={row} onDone={() => setChosen(null)} />}
          </li>
        ))}
      </ul>
    </div>
  );
}

const schema = z.object({
  name: z.string().trim().min(1, 'A supplier needs a name'),
  email: z.string(),
  phone: z.string(),
  days: z
    .string()
    .regex(/^\d{1,3}$/, 'Days, like 3')
    .transform(Number),
  our_number: z.string(),
  note: z.string(),
  retired: z.boolean(),
});

function SupplierForm({ row, onDone }: { row: SchemaSupplierOut | null; onDone: () => void }) {
  const keep = useKeepSupplier(row);
  const kept = useKeptForm({
    schema,
    values: {
      name: row?.name ?? '',
      email: row?.email ?? '',
      phone: row?.phone ?? '',
      days: String(row?.days ?? 3),
      our_number: row?.our_number ?? '',
      note: row?.note ?? '',
      retired: row?.retired ?? false,
    },
    keep: async (read) => {
      const made = await keep.mutateAsync(read);
      toast.success(`${made.name} is saved`);
      onDone();
    },
  });
  return (
    <Form kept={kept} label="Supplier" className="max-w-2xl space-y-2 py-2">
      <div className="grid grid-cols-2 gap-2">
        <FormText name="name" label="Name" maxLength={120} autoFocus />
        <FormText name="days" label="Days from ordering to having it" inputMode="numeric" />
        <FormText name="email" label="E-mail for orders" type="email" />
        <FormText name="phone" label="Phone" />
        <FormText name="our_number" label="Our customer number with them" maxLength={40} />
        <FormText name="note" label="Note" maxLength={300} />
      </div>
      <FormCheck name="retired" words="We buy nothing there any more" />
      <KeepOrLeave words={row ? 'Save changes' : 'Add the supplier'} onLeave={onDone} />
    </Form>
  );
}
