import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { v7 } from 'uuid';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { partsQuery } from '../../queries';
import type { OwnVisit } from '../../sync/ahead';
import type { EntryBodies } from '../../sync/entries';
import { inWords } from '../../trouble';
import { fitting, Lookup } from '../Lookup';
import { useRecord } from '../record';
import { THUMB } from '../thumb';

type What = EntryBodies['removed part']['what'];
const WHAT: { what: What; words: string; hint: string }[] = [
  { what: 'defective', words: 'Defective', hint: 'set aside for its supplier' },
  { what: 'kept', words: 'Kept', hint: 'comes onto your van' },
  { what: 'thrown away', words: 'Thrown away', hint: '' },
];
const SAID: Record<string, string> = {
  defective: 'defective, set aside for its supplier',
  kept: 'kept on the van',
  'thrown away': 'thrown away',
};

/** What came out, and what becomes of it. */
export function CameOut({ visit }: { visit: OwnVisit }) {
  const [open, setOpen] = useState(false);
  const { removed } = visit.report.entries;
  return (
    <section aria-label="Came out" className="space-y-2">
      <h2 className="font-semibold">Came out</h2>
      <ul>
        {removed.map((row) => (
          <li key={row.id} className="py-1">
            {row.quantity} × {row.name}
            {row.serial && ` (${row.serial})`}: {SAID[row.what]}
            {row.because && <span className="block text-ink-soft">“{row.because}”</span>}
          </li>
        ))}
      </ul>
      {open ? (
        <Out visit={visit} onOver={() => setOpen(false)} />
      ) : (
        <Button size="thumb" className="w-full" onClick={() => setOpen(true)}>
          Something came out
        </Button>
      )}
    </section>
  );
}

interface Part {
  code: string;
  words: string;
}

function Out({ visit, onOver }: { visit: OwnVisit; onOver: () => void }) {
  const [part, setPart] = useState<Part | null>(null);
  return part ? <Fate {...{ visit, part, onOver }} /> : <WhatCameOut onChoose={setPart} />;
}

/** A part of ours by typing or scanning; whatever else it is, in words. */
function WhatCameOut({ onChoose }: { onChoose: (part: Part) => void }) {
  const parts = useQuery(partsQuery).data ?? [];
  const find = (text: string) =>
    fitting(
      parts,
      text,
      ({ name, number }) => `${name} ${number}`,
      ({ barcode }) => barcode,
    ).map(({ code, name, number }) => ({ key: code, words: name, note: number }));
  return (
    <Lookup
      label="What came out?"
      scans
      find={find}
      onChoose={(code) => onChoose({ code, words: parts.find((row) => row.code === code)?.name ?? code })}
      onWords={(words) => onChoose({ code: '', words })}
    />
  );
}

function Fate({ visit, part, onOver }: { visit: OwnVisit; part: Part; onOver: () => void }) {
  const record = useRecord(visit.id);
  const [what, setWhat] = useState<What>('defective');
  const [serial, setSerial] = useState('');
  const [because, setBecause] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const body = { id: v7(), ...part, quantity: 1, serial, what, because };
    record.mutate({ kind: 'removed part', body }, { onSuccess: onOver });
  };
  return (
    <form onSubmit={submit} aria-label={`${part.words} came out`} className="space-y-3">
      <p className="text-lg font-semibold">{part.words}</p>
      <div role="radiogroup" aria-label="What becomes of it" className="grid grid-cols-3 gap-2">
        {WHAT.map((each) => (
          <button
            key={each.what}
            type="button"
            role="radio"
            aria-checked={what === each.what}
            onClick={() => setWhat(each.what)}
            className={`min-h-14 rounded-sm border-2 px-1 ${what === each.what ? 'border-copper bg-copper-wash font-semibold' : 'border-hairline'}`}
          >
            {each.words}
          </button>
        ))}
      </div>
      <p className="text-sm text-ink-soft">{WHAT.find((each) => each.what === what)!.hint}</p>
      <TextField
        label="Serial number, if it has one"
        maxLength={60}
        className={THUMB}
        value={serial}
        onChange={(event) => setSerial(event.target.value)}
      />
      <TextField
        label="Why?"
        maxLength={200}
        className={THUMB}
        value={because}
        onChange={(event) => setBecause(event.target.value)}
      />
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      <Button type="submit" rank="main" size="thumb" className="w-full" disabled={record.isPending}>
        Write it down
      </Button>
      <Button size="thumb" rank="quiet" className="w-full" onClick={onOver}>
        Back
      </Button>
    </form>
  );
}
