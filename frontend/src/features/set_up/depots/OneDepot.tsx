import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaDepotOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { useDepotUses, useEndDepot } from '../queries';

interface Props {
  depot: SchemaDepotOut;
  /** Into which it can be merged. */
  others: SchemaDepotOut[];
  onDone: () => void;
}

/** Who is at a depot, and the ways to be rid of it. */
export function OneDepot({ depot, others, onDone }: Props) {
  const uses = useDepotUses(depot.id);
  const { retire, merge } = useEndDepot(depot);
  const [into, setInto] = useState(0);
  const kept = others.find(({ id }) => id === into);
  return (
    <section aria-label={`Who uses ${depot.name}`} className="my-2 space-y-2 border-l-2 border-hairline pl-3">
      {uses.isError && <Notice tone="bad">{sentenceOf(uses.error)}</Notice>}
      {uses.data && (
        <p>
          {uses.data.length === 0
            ? 'Nobody uses it.'
            : `Used by ${uses.data.map(({ what, count }) => `${count} ${what}`).join(', ')}.`}
        </p>
      )}
      <div className="flex items-end gap-2">
        <Button disabled={retire.isPending} onClick={() => retire.mutate()}>
          {depot.retired ? 'Offer it again' : 'Retire it'}
        </Button>
        {others.length > 0 && (
          <>
            <SelectField
              label="Merge into"
              value={into}
              onChange={(event) => setInto(Number(event.target.value))}
            >
              <option value={0}>choose the one to keep…</option>
              {others.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </SelectField>
            <Button
              disabled={!kept || merge.isPending}
              onClick={() =>
                merge.mutate(into, {
                  onSuccess: () => {
                    toast.success(`${depot.name} is ${kept!.name} now`);
                    onDone();
                  },
                })
              }
            >
              Merge
            </Button>
          </>
        )}
      </div>
      <FormError error={retire.error ?? merge.error} />
    </section>
  );
}
