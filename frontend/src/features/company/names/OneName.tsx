import { useState, type FormEvent, type ReactNode } from 'react';
import type { SchemaKeyNameOut } from '@/api/types';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import type { Kind } from './kinds';
import { useNaming, useUses } from './queries';

interface Props {
  kind: Kind;
  row: SchemaKeyNameOut;
  /** Into which this one can be merged. */
  others: SchemaKeyNameOut[];
  /** What is known of it besides its name. */
  facts?: ReactNode;
  canChange: boolean;
  onDone: (row: SchemaKeyNameOut) => void;
}

/** One of a kind: who uses it, its name, and the ways to be rid of it. */
export function OneName({ kind, row, others, facts, canChange, onDone }: Props) {
  const { change, merge } = useNaming(kind, onDone);
  return (
    <>
      <Uses kind={kind} row={row} />
      {facts}
      {canChange && (
        <>
          <Rename
            row={row}
            busy={change.isPending}
            onKeep={(name) => change.mutate({ row, name, retired: row.retired })}
          />
          <section aria-label="Retire" className="space-y-1">
            <p className="text-ink-soft">
              {row.retired
                ? 'It is no longer offered. Whatever uses it keeps it.'
                : 'A retired name is no longer offered. Whatever uses it keeps it.'}
            </p>
            <Button
              disabled={change.isPending}
              onClick={() => change.mutate({ row, name: row.name, retired: !row.retired })}
            >
              {row.retired ? 'Offer it again' : 'Retire it'}
            </Button>
          </section>
          <FormError error={change.error} />
          {others.length > 0 && (
            <Merge
              row={row}
              others={others}
              busy={merge.isPending}
              onMerge={(into) => merge.mutate({ row, into })}
            />
          )}
          <FormError error={merge.error} />
        </>
      )}
    </>
  );
}

function Uses({ kind, row }: { kind: Kind; row: SchemaKeyNameOut }) {
  const uses = useUses(kind, row.code);
  return (
    <section aria-label="Used by">
      <h2 className="text-base font-semibold">{row.name}</h2>
      {uses.isPending && <p className="text-ink-soft">Looking who uses it…</p>}
      {uses.isError && <Notice tone="bad">{sentenceOf(uses.error)}</Notice>}
      {uses.data?.length === 0 && <p className="text-ink-soft">Nobody uses it.</p>}
      {uses.data && uses.data.length > 0 && (
        <p>
          Used by {uses.data.map((use) => `${use.count.toLocaleString('en-GB')} ${use.what}`).join(', ')}.
        </p>
      )}
    </section>
  );
}

function Rename({
  row,
  busy,
  onKeep,
}: {
  row: SchemaKeyNameOut;
  busy: boolean;
  onKeep: (name: string) => void;
}) {
  const [name, setName] = useState(row.name);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onKeep(name);
  };
  return (
    <form onSubmit={submit} aria-label="Rename" className="flex items-end gap-2">
      <TextField
        name="name"
        label="Name"
        maxLength={80}
        className="flex-1"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" disabled={busy || !name.trim() || name === row.name}>
        Rename everywhere
      </Button>
    </form>
  );
}

interface MergeProps {
  row: SchemaKeyNameOut;
  others: SchemaKeyNameOut[];
  busy: boolean;
  onMerge: (into: string) => void;
}

function Merge({ row, others, busy, onMerge }: MergeProps) {
  const [into, setInto] = useState('');
  const kept = others.find((one) => one.code === into);
  return (
    <section aria-label="Merge" className="space-y-2">
      <SelectField label="Merge into" value={into} onChange={(event) => setInto(event.target.value)}>
        <option value="">choose the one to keep…</option>
        {others.map((one) => (
          <option key={one.code} value={one.code}>
            {one.name}
          </option>
        ))}
      </SelectField>
      {kept && (
        <>
          <p className="text-ink-soft">
            Whoever uses {row.name} will use {kept.name}. {row.name} is gone after that; this cannot be
            undone.
          </p>
          <Button disabled={busy} onClick={() => onMerge(kept.code)}>
            Merge {row.name} into {kept.name}
          </Button>
        </>
      )}
    </section>
  );
}
