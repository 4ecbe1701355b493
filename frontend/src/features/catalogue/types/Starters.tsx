import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaTradeOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { length } from '@/shared/time';
import { useStarters, useTakeStarters } from '../queries';

/** Job types that companies of a trade begin with: ticked, made, and then changed as the company likes. */
export function Starters({ onDone }: { onDone: () => void }) {
  const trades = useStarters();
  const take = useTakeStarters();
  const [ticked, setTicked] = useState<string[]>([]);
  const error = trades.error ?? take.error;
  const set = (codes: string[], on: boolean) =>
    setTicked([...ticked.filter((code) => !codes.includes(code)), ...(on ? codes : [])]);
  const make = () =>
    take.mutate(ticked, {
      onSuccess: (made) => {
        toast.success(made.length === 1 ? 'One job type is made' : `${made.length} job types are made`);
        onDone();
      },
    });
  return (
    <section aria-label="From a trade" className="max-w-2xl space-y-4">
      <h2 className="font-semibold">Job types to begin with</h2>
      <p className="text-sm text-ink-soft">
        Tick what you do. Lengths are guesses to begin with; change them, and all the rest, as you like. The
        skills they ask for are made too.
      </p>
      {error && <Notice tone="bad">{sentenceOf(error)}</Notice>}
      {trades.data?.map((trade) => (
        <TradeJobs key={trade.key} trade={trade} ticked={ticked} onTick={set} />
      ))}
      <div className="flex gap-2">
        <Button rank="main" disabled={ticked.length === 0 || take.isPending} onClick={make}>
          {wordsOf(ticked.length)}
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </section>
  );
}

const wordsOf = (count: number) =>
  count === 0 ? 'Nothing is ticked' : count === 1 ? 'Make 1 job type' : `Make ${count} job types`;

interface TradeProps {
  trade: SchemaTradeOut;
  ticked: string[];
  onTick: (codes: string[], on: boolean) => void;
}

function TradeJobs({ trade, ticked, onTick }: TradeProps) {
  const free = trade.jobs.filter((job) => !job.is_ours).map((job) => job.code);
  const all = free.length > 0 && free.every((code) => ticked.includes(code));
  return (
    <fieldset className="text-sm">
      <legend className="flex w-full items-center gap-3 border-b border-hairline pb-0.5">
        <b className="font-semibold">{trade.name}</b>
        {free.length > 0 && (
          <button type="button" className="underline" onClick={() => onTick(free, !all)}>
            {all ? 'none' : 'all'} of {trade.name.toLowerCase()}
          </button>
        )}
      </legend>
      {trade.jobs.map((job) => (
        <label key={job.code} className="flex items-baseline gap-2 py-0.5">
          <input
            type="checkbox"
            disabled={job.is_ours}
            checked={job.is_ours || ticked.includes(job.code)}
            onChange={(event) => onTick([job.code], event.target.checked)}
          />
          <span className="flex-1">{job.name}</span>
          {job.is_ours && <span className="text-ink-soft">is there already</span>}
          <span className="w-44 truncate text-ink-soft">{job.skills.join(', ')}</span>
          <span className="figures w-16 text-right text-ink-soft">
            {length(60 * job.minutes)}
            {job.crew > 1 ? ` × ${job.crew}` : ''}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
