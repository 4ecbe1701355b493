import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaChoice } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { toldQuery, useSettle } from './queries';
import { byVisit, doneWords, recordWords, sawWords, timeWords, type Told } from './words';

/** What was done in the field and contradicts the records: both sides, and a person decides. */
export function ToldPage() {
  const told = useQuery(toldQuery);
  const visits = byVisit(told.data ?? []);
  return (
    <main className="mx-auto max-w-4xl space-y-4 p-4">
      <header>
        <h1 className="text-lg font-semibold">Told from the field</h1>
        <p className="text-sm text-ink-soft">
          What technicians recorded while the visit was changed in the office. Nothing of it is dropped: it
          counts as it was told, or it is kept beside the visit without an effect.
        </p>
      </header>
      {told.isPending && <p className="text-ink-soft">One moment…</p>}
      {told.isError && <Notice tone="bad">{sentenceOf(told.error)}</Notice>}
      {told.isSuccess && visits.length === 0 && <p>Nothing waits for a decision.</p>}
      {visits.map((rows) => (
        <AtVisit key={rows[0]!.id} rows={rows} />
      ))}
    </main>
  );
}

function AtVisit({ rows }: { rows: Told[] }) {
  const [first] = rows as [Told];
  return (
    <section
      aria-label={`${first.label}, ${first.technician}`}
      className="rounded-sm border border-hairline bg-sheet p-3 text-sm"
    >
      <header className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="font-semibold">
          {first.order_id ? (
            <Link to="/orders/$orderId" params={{ orderId: String(first.order_id) }} className="underline">
              {first.label}
            </Link>
          ) : (
            first.label
          )}
        </h2>
        {first.visit_id && (
          <Link to="/board" search={{ visit: first.visit_id }} className="underline">
            on the board
          </Link>
        )}
      </header>
      <dl className="mt-1 grid grid-cols-[9rem_1fr] gap-y-1">
        <dt className="text-ink-soft">In the records now</dt>
        <dd>{recordWords(first)}</dd>
        <dt className="text-ink-soft">{first.technician} saw</dt>
        <dd>{sawWords(first) || 'nothing of it'}</dd>
        <dt className="text-ink-soft">and did</dt>
        <dd>
          <ol>
            {rows.map((row) => (
              <li key={row.id}>
                <b className="font-semibold">{doneWords(row)}</b> {timeWords(row)}
              </li>
            ))}
          </ol>
        </dd>
      </dl>
      <Deciding deed={first} others={rows.length > 1} />
    </section>
  );
}

/** On a button, the beginning says enough. */
const shortened = (words: string) => (words.length > 60 ? `${words.slice(0, 59)}…` : words);

/** What becomes of the first of them; what was done after it follows. */
function Deciding({ deed, others }: { deed: Told; others: boolean }) {
  const settle = useSettle();
  const [words, setWords] = useState('');
  const decide = (choice: SchemaChoice) =>
    settle.mutate(
      { id: deed.id, choice, words },
      {
        onSuccess: () => {
          toast.success(choice === 'apply' ? 'It counts as it was told' : 'Kept beside the visit');
          setWords('');
        },
      },
    );
  return (
    <div className="mt-2 space-y-2">
      <p>
        The phone was told: <q>{deed.sentence}</q>
      </p>
      {settle.isError && <Notice tone="bad">{sentenceOf(settle.error)}</Notice>}
      <div className="flex flex-wrap items-end gap-3">
        <TextField label="What was agreed" value={words} onChange={(event) => setWords(event.target.value)} />
        <Button rank="main" disabled={settle.isPending} onClick={() => decide('apply')}>
          Let it count
        </Button>
        <Button disabled={settle.isPending} onClick={() => decide('keep')}>
          Keep “{shortened(doneWords(deed))}” as told
        </Button>
      </div>
      {others && (
        <p className="text-ink-soft">Where it counts, what was done after it follows as far as it can.</p>
      )}
    </div>
  );
}
