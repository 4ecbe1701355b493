import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaPartRequestOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { complain } from '@/shared/complain';
import { serverNow } from '@/shared/clock';
import { useHandOver, useNear, useOrderFor, usePromise, useRefuse } from '../queries';

/** What can be done about a request. */
export function Answering({ row }: { row: SchemaPartRequestOut }) {
  const order = useOrderFor();
  const hand = useHandOver();
  const [looking, setLooking] = useState(false);
  const [refusing, setRefusing] = useState(false);
  const at = { id: row.id, version: row.version };
  const told = (words: string) => ({ onSuccess: () => toast.success(words), onError: complain });
  if (row.state === 'handed over' || row.state === 'refused') return null;
  const open = row.state === 'asked' || row.state === 'ordered' || row.state === 'arrived';
  return (
    <div className="space-y-2 pt-2">
      <div className="flex flex-wrap items-end gap-2">
        {open && (
          <Button aria-expanded={looking} onClick={() => setLooking(!looking)}>
            Who has it near
          </Button>
        )}
        {row.state === 'asked' && (
          <Button
            disabled={order.isPending}
            onClick={() => order.mutate(at, told('It is on the order proposal'))}
          >
            Put on the order
          </Button>
        )}
        {(row.state === 'promised' || row.state === 'arrived') && (
          <HandOver
            row={row}
            busy={hand.isPending}
            onHand={(pieces) => hand.mutate({ ...at, ...pieces }, told(`${row.technician} has it`))}
          />
        )}
        <Button rank="quiet" aria-expanded={refusing} onClick={() => setRefusing(!refusing)}>
          Refuse
        </Button>
      </div>
      {looking && <Near row={row} onDone={() => setLooking(false)} />}
      {refusing && <Refusing row={row} />}
    </div>
  );
}

interface HandOverProps {
  row: SchemaPartRequestOut;
  busy: boolean;
  onHand: (pieces: { serials: string[]; batch: string }) => void;
}

/** The technician has it; of a part that has numbers or batches one says which. */
function HandOver({ row, busy, onHand }: HandOverProps) {
  const [pieces, setPieces] = useState('');
  const serials = row.tracking === 'serial number' ? pieces.split(/[\s,;]+/).filter(Boolean) : [];
  const batch = row.tracking === 'batch' ? pieces.trim() : '';
  const said =
    row.tracking === 'plain' || (row.tracking === 'batch' ? batch !== '' : serials.length === row.quantity);
  return (
    <>
      {row.tracking !== 'plain' && (
        <TextField
          label={row.tracking === 'batch' ? 'Batch' : 'Serial numbers'}
          className="w-44"
          value={pieces}
          onChange={(event) => setPieces(event.target.value)}
        />
      )}
      <Button disabled={busy || !said} onClick={() => onHand({ serials, batch })}>
        Handed over
      </Button>
    </>
  );
}

/** Who has it free, the nearest by road first. */
function Near({ row, onDone }: { row: SchemaPartRequestOut; onDone: () => void }) {
  const near = useNear(row.id);
  const promise = usePromise();
  if (near.isError) return <p className="text-ink-soft">{sentenceOf(near.error)}</p>;
  if (!near.data) return <p className="text-ink-soft">Looking…</p>;
  if (near.data.length === 0) return <p className="text-ink-soft">Nobody has one free.</p>;
  return (
    <ul aria-label="Who has it" className="divide-y divide-hairline">
      {near.data.slice(0, 8).map((one) => (
        <li key={`${one.place_id} ${one.substitute}`} className="flex items-center gap-3 py-0.5">
          <span className="min-w-0 flex-1">
            {one.technician ? `${one.technician}, ${one.place}` : one.place}
            {one.substitute && <span className="text-ink-soft">: {one.substitute} instead</span>}
          </span>
          <span className="figures">{one.free} free</span>
          <span className="figures w-28 text-right">
            {one.seconds == null ? 'place unknown' : `${Math.round(one.seconds / 60)} min away`}
          </span>
          <Button
            disabled={!!one.substitute || one.free < row.quantity || promise.isPending}
            onClick={() =>
              promise.mutate(
                {
                  id: row.id,
                  version: row.version,
                  place_id: one.place_id,
                  at: Math.round(serverNow() + (one.seconds ?? 3600)),
                },
                {
                  onSuccess: () => {
                    toast.success(`Promised from ${one.place}`);
                    onDone();
                  },
                  onError: complain,
                },
              )
            }
          >
            Promise it
          </Button>
        </li>
      ))}
    </ul>
  );
}

function Refusing({ row }: { row: SchemaPartRequestOut }) {
  const refuse = useRefuse();
  const [because, setBecause] = useState('');
  return (
    <form
      aria-label="Refuse"
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        refuse.mutate({ id: row.id, version: row.version, because }, { onError: complain });
      }}
    >
      <TextField
        label="Why, for whoever asked"
        className="w-80"
        maxLength={300}
        value={because}
        onChange={(event) => setBecause(event.target.value)}
      />
      <Button type="submit" rank="danger" disabled={!because.trim() || refuse.isPending}>
        Refuse it
      </Button>
    </form>
  );
}
