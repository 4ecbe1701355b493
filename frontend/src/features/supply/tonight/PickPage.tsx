import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaPickOut, SchemaVanOfDayOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { complain } from '@/shared/complain';
import { dayName, moment } from '@/shared/time';
import { usePick, useSupplyCounts, useTonight } from '../queries';
import { ScanField } from './ScanField';
import { emptyBasket, isWhole, picked, scanned, type Basket } from './basket';

/** What is picked at the depot for one van: ticked by hand, or scanned. */
export function PickPage() {
  const { technicianId } = useParams({ strict: false }) as { technicianId: string };
  const counts = useSupplyCounts();
  const day = (useSearch({ strict: false }) as { day?: string }).day ?? counts.data?.day ?? '';
  const vans = useTonight(day || '2000-01-01');
  if (vans.isError)
    return (
      <div className="p-4">
        <Notice tone="bad">{sentenceOf(vans.error)}</Notice>
      </div>
    );
  const van = vans.data?.find((row) => String(row.technician_id) === technicianId);
  if (!day || !vans.data) return <p className="p-4 text-ink-soft">One moment…</p>;
  if (!van || van.picks.length === 0)
    return <p className="p-4">There is nothing to pick for this van on {dayName(moment(day, 720))}.</p>;
  return <Picking key={van.technician_id} van={van} day={day} />;
}

function Picking({ van, day }: { van: SchemaVanOfDayOut; day: string }) {
  const [basket, setBasket] = useState<Basket>(emptyBasket);
  const [said, setSaid] = useState('Scan what you take off the shelf, or tick it.');
  const [key] = useState(() => crypto.randomUUID());
  const pick = usePick();
  const navigate = useNavigate();
  const onScan = (code: string, serial: string, name: string) => {
    const next = scanned(basket, van.picks, code, serial);
    setBasket(next.basket);
    setSaid(next.problem ? `✕ ${name}: ${next.problem}` : `✓ ${name}`);
  };
  const onBook = () =>
    pick.mutate(
      { technician_id: van.technician_id, day, picked: picked(basket, van.picks), key },
      {
        onSuccess: (count) => {
          toast.success(`${count} kinds of parts are on ${van.van}`);
          void navigate({ to: '/stock/tonight', search: { day } });
        },
        onError: complain,
      },
    );
  const done = van.picks.filter((row) => isWhole(basket, row)).length;
  return (
    <div className="max-w-3xl space-y-4 p-4">
      <header>
        <h1 className="text-lg font-semibold">
          {van.technician}, {van.van}: {dayName(moment(day, 720))}
        </h1>
        <p className="text-sm text-ink-soft">
          Pick at {van.depot}, by shelf.{' '}
          <a
            className="underline"
            href={urlOf('/api/v1/supply/pick-list', {}, { day, technician_id: van.technician_id })}
            target="_blank"
            rel="noreferrer"
          >
            On paper (PDF)
          </a>
        </p>
      </header>
      <ScanField onFound={onScan} onUnknown={(text) => setSaid(`✕ “${text}” is not known`)} />
      <p role="status" className="text-sm font-semibold">
        {said}
      </p>
      <ul aria-label="To pick" className="divide-y divide-hairline border-y border-hairline">
        {van.picks.map((row) => (
          <PickRow key={`${row.code} ${row.transfer_id}`} row={row} basket={basket} onChange={setBasket} />
        ))}
      </ul>
      <Button
        rank="main"
        disabled={picked(basket, van.picks).length === 0 || pick.isPending}
        onClick={onBook}
      >
        Book {done} of {van.picks.length} onto {van.van}
      </Button>
    </div>
  );
}

interface RowProps {
  row: SchemaPickOut;
  basket: Basket;
  onChange: (basket: Basket) => void;
}

function PickRow({ row, basket, onChange }: RowProps) {
  const own = basket[row.code] ?? { quantity: 0, serials: [], batch: '' };
  const set = (change: Partial<typeof own>) => onChange({ ...basket, [row.code]: { ...own, ...change } });
  return (
    <li className="flex items-center gap-4 py-2">
      <input
        type="checkbox"
        className="size-5"
        aria-label={`${row.quantity} × ${row.part}`}
        checked={isWhole(basket, row)}
        disabled={row.tracking === 'serial number'}
        onChange={(event) => set({ quantity: event.target.checked ? row.quantity : 0 })}
      />
      <b className="figures w-20">{row.shelf || '–'}</b>
      <b className="figures w-16 text-right text-lg">
        {own.quantity}/{row.quantity}
      </b>
      <div className="min-w-0 flex-1">
        <p className="font-semibold">{row.part}</p>
        <p className="text-sm text-ink-soft">
          {row.number}; {row.lies} lie there{row.note && `; ${row.note}`}
        </p>
      </div>
      {row.tracking === 'batch' && (
        <TextField
          label="Batch"
          className="w-32"
          value={own.batch}
          onChange={(event) => set({ batch: event.target.value })}
        />
      )}
      {row.tracking === 'serial number' && (
        <TextField
          label="Serial numbers"
          className="w-48"
          hint="or scan them"
          value={own.serials.join(' ')}
          onChange={(event) => {
            const serials = event.target.value.split(/\s+/).filter(Boolean);
            set({ serials, quantity: serials.length });
          }}
        />
      )}
    </li>
  );
}
