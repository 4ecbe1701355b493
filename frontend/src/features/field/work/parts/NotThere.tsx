import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { moment, isoDay, length } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { nearQuery } from '../../queries';
import type { OwnVisit } from '../../sync/ahead';
import { inWords } from '../../trouble';
import { useRecord } from '../record';
import { THUMB } from '../thumb';

interface Props {
  visit: OwnVisit;
  code: string;
  name: string;
  quantity: number;
}

/** By the books the van has too few: who has it near, and asking the office for it. */
export function NotThere({ visit, code, name, quantity }: Props) {
  const [open, setOpen] = useState<'near' | 'ask' | null>(null);
  const turn = (which: 'near' | 'ask') => setOpen(open === which ? null : which);
  return (
    <div className="space-y-2">
      <Notice tone="warn">
        By the books {quantity} of it {quantity === 1 ? 'is' : 'are'} not on your van. Used anyway, somebody
        will count the van.
      </Notice>
      <div className="grid grid-cols-2 gap-2">
        <Button size="thumb" aria-pressed={open === 'near'} onClick={() => turn('near')}>
          Who has it?
        </Button>
        <Button size="thumb" aria-pressed={open === 'ask'} onClick={() => turn('ask')}>
          Ask for it
        </Button>
      </div>
      {open === 'near' && <Near code={code} visitId={visit.id} />}
      {open === 'ask' && (
        <Ask visit={visit} code={code} name={name} quantity={quantity} onAsked={() => setOpen(null)} />
      )}
    </div>
  );
}

function Near({ code, visitId }: { code: string; visitId: number }) {
  const near = useQuery(nearQuery(code, visitId));
  if (near.isPending && near.fetchStatus === 'paused') return <p>There is no signal to ask with.</p>;
  if (near.isPending) return <p role="status">Asking who has it…</p>;
  if (near.isError) return <Notice tone="bad">{sentenceOf(near.error)}</Notice>;
  if (near.data.length === 0) return <p>Nobody has it free at the moment.</p>;
  return (
    <ul className="divide-y divide-hairline border-y border-hairline">
      {near.data.slice(0, 5).map((row) => (
        <li key={`${row.place_id} ${row.substitute}`} className="py-2">
          <span className="font-semibold">{row.technician || row.place}</span>: {row.free} free
          {row.seconds !== null && `, ${length(row.seconds)} away`}
          {row.substitute && <span className="block text-sm text-ink-soft">instead: {row.substitute}</span>}
        </li>
      ))}
    </ul>
  );
}

function Ask({ visit, code, name, quantity, onAsked }: Props & { onAsked: () => void }) {
  const record = useRecord(visit.id);
  const [by, setBy] = useState('');
  const [must, setMust] = useState(true);
  const [other, setOther] = useState(false);
  const [words, setWords] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const [hours = 0, minutes = 0] = by.split(':').map(Number);
    const needed_by = by ? moment(isoDay(serverNow()), hours * 60 + minutes) : null;
    record.mutate(
      {
        kind: 'part asked',
        body: { code, name, quantity, needed_by, must, substitute_allowed: other, words },
      },
      { onSuccess: onAsked },
    );
  };
  return (
    <form onSubmit={submit} aria-label={`Ask for ${name}`} className="space-y-3">
      <TextField
        label="Needed today by"
        type="time"
        className={THUMB}
        value={by}
        onChange={(event) => setBy(event.target.value)}
      />
      <Tick words="The work cannot be done without it" on={must} onTurn={setMust} />
      <Tick words="Another part that fits will do" on={other} onTurn={setOther} />
      <TextField
        label="A word for the office"
        maxLength={300}
        className={THUMB}
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      <Button type="submit" rank="main" size="thumb" className="w-full" disabled={record.isPending}>
        Ask for {quantity} × {name}
      </Button>
    </form>
  );
}

const Tick = ({ words, on, onTurn }: { words: string; on: boolean; onTurn: (on: boolean) => void }) => (
  <Button size="thumb" className="w-full" aria-pressed={on} onClick={() => onTurn(!on)}>
    {words}
  </Button>
);
