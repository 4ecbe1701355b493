import { toast } from 'sonner';
import { z } from 'zod';
import { sentenceOf } from '@/api/client';
import type { SchemaAction, SchemaDeedOut, SchemaOwnRoleOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Form, FormText, FormValue, KeepOrLeave, useKeptForm } from '@/design/form';
import { Notice } from '@/design/Notice';
import { useCompany } from '@/features/company';
import { useSetRole } from '../queries';
import { withNeeds } from './reach';

const schema = z.object({
  name: z.string().trim().min(1, 'A role needs a name'),
  duty: z.string(),
  actions: z.custom<SchemaAction[]>().refine((ticked) => ticked.length > 0, 'Tick at least one thing'),
  area_ids: z.custom<number[]>(),
  depot_ids: z.custom<number[]>(),
});

interface Props {
  row: SchemaOwnRoleOut | undefined;
  deeds: SchemaDeedOut[];
  onLeave: () => void;
}

/** A role put together from what may be done, and how far it reaches. */
export function RoleForm({ row, deeds, onLeave }: Props) {
  const { make, change, remove } = useSetRole();
  const company = useCompany().data;
  const kept = useKeptForm({
    schema,
    values: {
      name: row?.name ?? '',
      duty: row?.duty ?? '',
      actions: (row?.actions ?? []).filter((action) => action !== 'use'),
      area_ids: row?.area_ids ?? [],
      depot_ids: row?.depot_ids ?? [],
    },
    keep: async (body) => {
      await (row ? change.mutateAsync({ row, body }) : make.mutateAsync(body));
      toast.success(`The role ${body.name} is saved`);
      onLeave();
    },
  });
  return (
    <Form kept={kept} label="A role of your own" className="max-w-2xl space-y-3 text-sm">
      <h2 className="font-semibold">{row ? row.name : 'A role of your own'}</h2>
      <div className="grid grid-cols-2 gap-3">
        <FormText name="name" label="Name" maxLength={60} autoFocus={!row} />
        <FormText name="duty" label="What for" hint="Optional, like “plans the north”" maxLength={120} />
      </div>
      <FormValue name="actions">
        {({ value, onChange, error }) => (
          <Deeds deeds={deeds} ticked={value as SchemaAction[]} onChange={onChange} error={error} />
        )}
      </FormValue>
      <p className="text-ink-soft">
        Narrowed, the role sees everything it may see, but makes and changes work orders and visits only at
        sites in these areas, and plans only technicians of these depots. Nothing ticked: everywhere.
      </p>
      <div className="grid grid-cols-2 gap-3">
        <Narrow name="area_ids" words="Areas" rows={company?.areas ?? []} />
        <Narrow name="depot_ids" words="Depots" rows={company?.depots ?? []} />
      </div>
      {row && row.holders.length > 0 && (
        <Notice>What you change holds at once for {row.holders.join(', ')}.</Notice>
      )}
      {remove.isError && <Notice tone="bad">{sentenceOf(remove.error)}</Notice>}
      <div className="flex items-center justify-between">
        <KeepOrLeave words={row ? 'Save changes' : 'Make the role'} onLeave={onLeave} />
        {row && (
          <Button
            disabled={row.holders.length > 0 || remove.isPending}
            onClick={() => remove.mutate(row, { onSuccess: onLeave })}
          >
            Remove the role
          </Button>
        )}
      </div>
    </Form>
  );
}

interface DeedsProps {
  deeds: SchemaDeedOut[];
  ticked: SchemaAction[];
  onChange: (ticked: SchemaAction[]) => void;
  error: string | undefined;
}

function Deeds({ deeds, ticked, onChange, error }: DeedsProps) {
  const { all, brought } = withNeeds(ticked, deeds);
  const change = (action: SchemaAction, on: boolean) =>
    onChange(on ? [...ticked, action] : ticked.filter((one) => one !== action));
  return (
    <fieldset>
      <legend className="text-ink-soft">May</legend>
      <div className="grid grid-cols-2 gap-x-3 gap-y-0.5">
        {deeds
          .filter((deed) => deed.own)
          .map((deed) => (
            <label key={deed.action} className="flex items-baseline gap-1.5">
              <input
                type="checkbox"
                checked={all.has(deed.action)}
                disabled={brought.has(deed.action)}
                title={brought.has(deed.action) ? 'Needed by something else that is ticked' : undefined}
                onChange={(event) => change(deed.action, event.target.checked)}
              />
              {deed.words}
            </label>
          ))}
      </div>
      {error && (
        <p role="alert" className="text-xs text-bad">
          {error}
        </p>
      )}
    </fieldset>
  );
}

interface NarrowProps {
  name: string;
  words: string;
  rows: readonly { id: number; name: string }[];
}

function Narrow({ name, words, rows }: NarrowProps) {
  return (
    <FormValue name={name}>
      {({ value, onChange }) => (
        <fieldset>
          <legend className="text-ink-soft">{words}</legend>
          {rows.length === 0 && <p className="text-ink-soft">none yet</p>}
          {rows.map((row) => (
            <label key={row.id} className="flex items-baseline gap-1.5">
              <input
                type="checkbox"
                checked={(value as number[]).includes(row.id)}
                onChange={(event) =>
                  onChange(
                    event.target.checked
                      ? [...(value as number[]), row.id]
                      : (value as number[]).filter((one) => one !== row.id),
                  )
                }
              />
              {row.name}
            </label>
          ))}
        </fieldset>
      )}
    </FormValue>
  );
}
