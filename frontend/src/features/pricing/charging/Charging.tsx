import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaChargingOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { useSkills } from '@/features/people';
import { useCharging, useCurrency, useItems, useKeepCharging } from '../queries';
import { Journeys } from './Journeys';
import { Surcharges } from './Surcharges';
import { chargingIn, typedCharging, type TypedCharging } from './model';

/** How labour and journeys are charged where nothing else is said, and what evenings, nights and holidays add. */
export function Charging({ canChange }: { canChange: boolean }) {
  const charging = useCharging();
  const currency = useCurrency();
  if (charging.isError) return <Notice tone="bad">{sentenceOf(charging.error)}</Notice>;
  if (!charging.data) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return (
    <ChargingForm
      key={`${charging.data.version} ${currency}`}
      row={charging.data}
      currency={currency}
      canChange={canChange}
    />
  );
}

interface FormProps {
  row: SchemaChargingOut;
  currency: string;
  canChange: boolean;
}

function ChargingForm({ row, currency, canChange }: FormProps) {
  const [typed, setTyped] = useState(() => typedCharging(row, currency));
  const keep = useKeepCharging();
  const set = (changes: Partial<TypedCharging>) => setTyped((old) => ({ ...old, ...changes }));
  return (
    <form
      aria-label="How work is charged"
      className="min-h-0 flex-1 overflow-y-auto p-4 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(chargingIn(typed, row.version, currency), {
          onSuccess: () => toast.success('How work is charged is saved'),
        });
      }}
    >
      <fieldset disabled={!canChange} className="max-w-3xl space-y-5">
        <Labour typed={typed} set={set} />
        <Surcharges rows={typed.surcharges} onChange={(surcharges) => set({ surcharges })} />
        <Journeys typed={typed} set={set} />
        <FormError error={keep.error} />
        {canChange && (
          <Button type="submit" rank="main" disabled={keep.isPending}>
            Save
          </Button>
        )}
      </fieldset>
    </form>
  );
}

interface PartProps {
  typed: TypedCharging;
  set: (changes: Partial<TypedCharging>) => void;
}

/** What an hour costs, by skill, and in which steps time is billed. */
function Labour({ typed, set }: PartProps) {
  const offered = useHours();
  return (
    <section aria-label="Labour" className="space-y-2">
      <h2 className="font-semibold">Labour</h2>
      <p className="text-ink-soft">
        Work whose job type has no lines of its own is charged by the hour: for its usual length, for each
        person who goes, in these steps.
      </p>
      <div className="grid grid-cols-3 gap-2">
        <SelectField
          label="An hour"
          value={typed.labourItem}
          onChange={(event) => set({ labourItem: event.target.value })}
        >
          <option value="">not charged by itself</option>
          {offered}
        </SelectField>
        <TextField
          label="Billed per started minutes"
          name="step_minutes"
          inputMode="numeric"
          value={typed.step}
          onChange={(event) => set({ step: event.target.value })}
        />
        <TextField
          label="At least minutes"
          name="least_minutes"
          inputMode="numeric"
          value={typed.least}
          onChange={(event) => set({ least: event.target.value })}
        />
      </div>
      <BySkill typed={typed} set={set} />
    </section>
  );
}

/** Items for an hour of labour, to choose from. */
function useHours() {
  const hours = (useItems().data ?? []).filter(
    (item) => item.kind === 'labour' && item.unit === 'HUR' && !item.retired,
  );
  return hours.map((item) => (
    <option key={item.key} value={item.key}>
      {item.wording}
    </option>
  ));
}

function BySkill({ typed, set }: PartProps) {
  const skills = useSkills().data ?? [];
  const offered = useHours();
  const pick = (skill: string, item: string) => {
    const rest = Object.fromEntries(Object.entries(typed.skillItems).filter(([key]) => key !== skill));
    set({ skillItems: item ? { ...rest, [skill]: item } : rest });
  };
  return (
    <details open={Object.keys(typed.skillItems).length > 0}>
      <summary className="cursor-pointer">Another hour where a skill is needed</summary>
      <div className="mt-1 grid grid-cols-3 gap-2">
        {skills.map((skill) => (
          <SelectField
            key={skill.code}
            label={skill.name}
            value={typed.skillItems[skill.code] ?? ''}
            onChange={(event) => pick(skill.code, event.target.value)}
          >
            <option value="">as above</option>
            {offered}
          </SelectField>
        ))}
      </div>
    </details>
  );
}
