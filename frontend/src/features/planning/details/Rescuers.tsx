import { useQuery } from '@tanstack/react-query';
import { Siren } from 'lucide-react';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaPlacedOut, SchemaRescuerOut, SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { clockTime } from '@/shared/time';
import { useGive } from '../commands';
import { rescuersQuery } from '../queries';

const SHOWN = 5;

/** Work that cannot wait: who could be there first, and giving it to one at once. */
export function Rescuers({ visit, onRepair }: { visit: SchemaVisitDetailOut; onRepair: () => void }) {
  const [open, setOpen] = useState(false);
  const [given, setGiven] = useState<SchemaPlacedOut | null>(null);
  return (
    <section aria-label="Urgent" className="border-t border-hairline pt-3">
      <Button icon={<Siren size={15} />} aria-expanded={open} onClick={() => setOpen(!open)}>
        Who can be there first?
      </Button>
      {given && <Displaced given={given} onRepair={onRepair} />}
      {open && (
        <Found
          visit={visit}
          onGiven={(placed) => {
            setGiven(placed);
            setOpen(false);
          }}
        />
      )}
    </section>
  );
}

/** What had to give way, so that nobody finds out by a call. */
function Displaced({ given, onRepair }: { given: SchemaPlacedOut; onRepair: () => void }) {
  const displaced = given.verdict.reasons.filter((row) => row.weight === 'warns' || row.weight === 'asks');
  return (
    <div role="status" className="mt-2 border-l-4 border-copper bg-copper-wash px-2 py-1.5 text-sm">
      <p className="font-semibold">Given and told to the phone.</p>
      {displaced.length === 0 ? (
        <p>Nothing has to give way.</p>
      ) : (
        <>
          <p>What it displaces:</p>
          <ul className="list-disc pl-4">
            {displaced.map((row) => (
              <li key={row.sentence}>{row.sentence}</li>
            ))}
          </ul>
          <Button className="mt-1" onClick={onRepair}>
            Repair the day
          </Button>
        </>
      )}
    </div>
  );
}

interface FoundProps {
  visit: SchemaVisitDetailOut;
  onGiven: (placed: SchemaPlacedOut) => void;
}

function Found({ visit, onGiven }: FoundProps) {
  const [all, setAll] = useState(false);
  const found = useQuery({ ...rescuersQuery(visit.id), refetchInterval: 60_000 });
  const [asking, setAsking] = useState<number | null>(null);
  const give = useGive();
  const send = (row: SchemaRescuerOut, because: string) =>
    give.mutate(
      { visit, technician_id: row.technician_id, start: row.start, because },
      { onSuccess: onGiven },
    );
  if (found.isPending) return <p className="mt-2 text-sm text-ink-soft">Looking who is where…</p>;
  if (found.isError) return <Notice tone="bad">{sentenceOf(found.error)}</Notice>;
  if (found.data.length === 0)
    return <p className="mt-2 text-sm">Nobody at work now may take it. The openings below say why not.</p>;
  const shown = all ? found.data : found.data.slice(0, SHOWN);
  return (
    <>
      <ol className="mt-2 divide-y divide-hairline" aria-label="Who can be there first">
        {shown.map((row) => (
          <li key={row.technician_id} className="py-1.5 text-sm">
            <div className="flex items-start gap-2">
              <div className="min-w-0 flex-1">
                <p className="font-semibold">{row.name}</p>
                <p className="text-ink-soft">
                  {row.doing} · {Math.round(row.drive_seconds / 60)} min to drive
                </p>
              </div>
              <Button
                rank={row === found.data[0] ? 'main' : 'plain'}
                disabled={give.isPending}
                title="Place it there and tell the phone at once"
                onClick={() => (row.asks ? setAsking(row.technician_id) : send(row, ''))}
              >
                Give, <time>{clockTime(row.start)}</time>
              </Button>
            </div>
            <ul className="text-xs">
              {row.reasons
                .filter((reason) => reason.weight === 'warns' || reason.weight === 'asks')
                .map((reason) => (
                  <li key={reason.sentence} className="text-warn">
                    {reason.sentence}
                  </li>
                ))}
            </ul>
            {asking === row.technician_id && <Why onSay={(words) => send(row, words)} />}
          </li>
        ))}
      </ol>
      {shown.length < found.data.length && (
        <button type="button" className="text-sm underline" onClick={() => setAll(true)}>
          {found.data.length - shown.length} more
        </button>
      )}
    </>
  );
}

function Why({ onSay }: { onSay: (words: string) => void }) {
  const [words, setWords] = useState('');
  return (
    <form
      className="mt-1 flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onSay(words);
      }}
    >
      <TextField
        className="flex-1"
        label="Why all the same"
        autoFocus
        required
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <Button type="submit" disabled={!words.trim()}>
        Give
      </Button>
    </form>
  );
}
