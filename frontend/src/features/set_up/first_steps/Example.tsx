import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import type { SchemaExampleOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { useStarters } from '@/features/catalogue';

const KEY = ['example'] as const;

function useExample() {
  const client = useQueryClient();
  const now = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/v1/set-up/example')) });
  const onSuccess = () => client.invalidateQueries();
  const fill = useMutation({
    mutationFn: (trade: string) => data(api.POST('/api/v1/set-up/example', { body: { trade } })),
    onSuccess,
  });
  const throwAway = useMutation({
    mutationFn: () => data(api.DELETE('/api/v1/set-up/example')),
    onSuccess: () => {
      toast.success('The example is thrown away');
      return onSuccess();
    },
  });
  return { now, fill, throwAway };
}

/** A small example to try everything with, and to throw away. */
export function Example() {
  const { now, fill, throwAway } = useExample();
  if (!now.data) return null;
  if (now.data.exists)
    return (
      <ThrowAway
        counts={now.data.counts}
        busy={throwAway.isPending}
        error={throwAway.error}
        onSure={() => throwAway.mutate()}
      />
    );
  if (!now.data.can_be_filled) return null;
  return <Fill busy={fill.isPending} error={fill.error} onFill={(trade) => fill.mutate(trade)} />;
}

interface FillProps {
  busy: boolean;
  error: unknown;
  onFill: (trade: string) => void;
}

function Fill({ busy, error, onFill }: FillProps) {
  const trades = useStarters().data ?? [];
  const [trade, setTrade] = useState('');
  const chosen = trade || trades[0]?.key || '';
  return (
    <section aria-label="Example" className="space-y-2 pt-1">
      <h2 className="font-semibold">Or try it first</h2>
      <p className="text-sm text-ink-soft">
        Three technicians, six customers and ten calls to plan with. When you have seen enough, throw them
        away here: all is as it was before.
      </p>
      <div className="flex items-end gap-2">
        <SelectField label="Trade" value={chosen} onChange={(event) => setTrade(event.target.value)}>
          {trades.map((row) => (
            <option key={row.key} value={row.key}>
              {row.name}
            </option>
          ))}
        </SelectField>
        <Button disabled={busy || !chosen} onClick={() => onFill(chosen)}>
          {busy ? 'Filling in…' : 'Fill in an example'}
        </Button>
      </div>
      <FormError error={error} />
    </section>
  );
}

interface ThrowProps {
  counts: SchemaExampleOut['counts'];
  busy: boolean;
  error: unknown;
  onSure: () => void;
}

function ThrowAway({ counts, busy, error, onSure }: ThrowProps) {
  const [asked, setAsked] = useState(false);
  const all = Object.entries(counts)
    .map(([what, count]) => `${count} ${what}`)
    .join(', ');
  return (
    <Notice tone="warn">
      <div className="space-y-2">
        <p>There is an example in this company. Throwing it away takes along what was added since.</p>
        {asked ? (
          <div className="flex items-center gap-2">
            <span>All of it: {all}?</span>
            <Button disabled={busy} onClick={onSure}>
              {busy ? 'Throwing away…' : 'Throw all of it away'}
            </Button>
            <Button rank="quiet" disabled={busy} onClick={() => setAsked(false)}>
              Keep it
            </Button>
          </div>
        ) : (
          <Button onClick={() => setAsked(true)}>Throw the example away</Button>
        )}
        <FormError error={error} />
      </div>
    </Notice>
  );
}
