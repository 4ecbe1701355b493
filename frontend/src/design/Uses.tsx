import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from './Button';
import { SelectField } from './Field';
import { FormError } from './FormError';
import { Notice } from './Notice';

interface Uses {
  data: { what: string; count: number }[] | undefined;
  isError: boolean;
  error: unknown;
}

/** Who uses something, before it is renamed, merged or retired. */
export function UsedBy({ uses }: { uses: Uses }) {
  if (uses.isError) return <Notice tone="bad">{sentenceOf(uses.error)}</Notice>;
  if (!uses.data) return <p className="text-ink-soft">Looking who uses it…</p>;
  if (uses.data.length === 0) return <p className="text-ink-soft">Nobody uses it.</p>;
  return <p>Used by {uses.data.map(({ what, count }) => counted(count, what)).join(', ')}.</p>;
}

/** "3 sites", "1 site": what is named comes in the plural. */
export function counted(count: number, what: string): string {
  const one = what
    .replace(/(sh|ss|x)es$/, '$1')
    .replace(/ies$/, 'y')
    .replace(/([^s])s$/, '$1');
  return `${count.toLocaleString('en-GB')} ${count === 1 ? one : what}`;
}

interface Merge<Key> {
  name: string;
  /** Into which it can be merged. */
  others: readonly { key: Key; name: string }[];
  busy: boolean;
  error: unknown;
  onMerge: (into: Key, name: string) => void;
  /** What becomes of whoever uses it, where that is not all. */
  hint?: string;
}

/** Make something one with another of its kind: chosen first, then said what it means, then done. */
export function MergeInto<Key extends string | number>(props: Merge<Key>) {
  const { name, others, busy, error, onMerge, hint } = props;
  const [into, setInto] = useState('');
  const kept = others.find((one) => String(one.key) === into);
  if (others.length === 0) return null;
  return (
    <section aria-label="Merge" className="space-y-2">
      <SelectField label="Merge into" value={into} onChange={(event) => setInto(event.target.value)}>
        <option value="">choose the one to keep…</option>
        {others.map((one) => (
          <option key={one.key} value={one.key}>
            {one.name}
          </option>
        ))}
      </SelectField>
      {kept && (
        <>
          <p className="text-ink-soft">
            Whoever uses {name} will use {kept.name}. {hint} {name} is gone after that; this cannot be undone.
          </p>
          <Button disabled={busy} onClick={() => onMerge(kept.key, kept.name)}>
            Merge {name} into {kept.name}
          </Button>
        </>
      )}
      <FormError error={error} />
    </section>
  );
}
