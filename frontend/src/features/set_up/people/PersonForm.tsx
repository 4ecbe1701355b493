import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaDepotOut, SchemaTechnicianRecordOut } from '@/api/types';
import { Form, FormDay, FormSelect, FormText, FormValue, KeepOrLeave, useKeptForm } from '@/design/form';
import { useCompany } from '@/features/company';
import { SkillsField } from '@/features/people';
import { serverNow } from '@/shared/clock';
import { isoDay } from '@/shared/time';
import { useSetTechnician } from '../queries';

const schema = z.object({
  name: z.string().trim().min(1, 'A technician needs a name'),
  phone: z.string(),
  email: z.union([z.literal(''), z.email('An e-mail address, like ines@example.org')]),
  depot_id: z.coerce.number().int().min(1, 'Choose the depot where the day begins and ends'),
  area_ids: z.array(z.number()),
  skills: z.record(z.string(), z.number()),
  valid_from: z.string(),
});

interface Props {
  /** None: a new one. */
  person: SchemaTechnicianRecordOut | null;
  canChange: boolean;
  onSaved?: (id: number) => void;
}

/** Name, how to reach them, depot, areas and skills. */
export function PersonForm({ person, canChange, onSaved }: Props) {
  const all = useCompany().data?.depots ?? [];
  const depots = all.filter((row) => !row.retired || row.id === person?.depot_id);
  const { add, change } = useSetTechnician();
  const kept = useKeptForm({
    schema,
    values: {
      name: person?.name ?? '',
      phone: person?.phone ?? '',
      email: person?.email ?? '',
      depot_id: person?.depot_id ?? (depots.length === 1 ? depots[0]!.id : 0),
      area_ids: person?.area_ids ?? [],
      skills: person?.skills ?? {},
      valid_from: isoDay(serverNow()),
    },
    keep: async ({ valid_from, ...read }) => {
      const row = person
        ? await change.mutateAsync({ id: person.id, version: person.version, valid_from, ...read })
        : await add.mutateAsync(read);
      toast.success(`${row.name} is saved`);
      onSaved?.(row.id);
    },
  });
  return (
    <Form kept={kept} label="Technician" className="max-w-2xl space-y-2">
      <fieldset disabled={!canChange} className="space-y-2">
        <FormText name="name" label="Name" maxLength={120} autoFocus={person === null} />
        <Reach depots={depots} />
        {person && <AnotherDepot before={person.depot_id} />}
        <FormValue name="skills">
          {({ value, onChange, error }) => (
            <div>
              <SkillsField
                words="Skills, level 1 to 5"
                needs={value as Record<string, number>}
                onChange={onChange}
              />
              {error && (
                <p role="alert" className="text-xs text-bad">
                  {error}
                </p>
              )}
            </div>
          )}
        </FormValue>
        <FormValue name="area_ids">
          {({ value, onChange }) => <Areas chosen={value as number[]} onChange={onChange} />}
        </FormValue>
        {canChange && <KeepOrLeave words={person ? 'Save changes' : 'Save technician'} />}
      </fieldset>
    </Form>
  );
}

/** How to reach them, and where the day begins and ends. */
const Reach = ({ depots }: { depots: SchemaDepotOut[] }) => (
  <div className="grid grid-cols-3 gap-2">
    <FormText name="phone" label="Phone" type="tel" maxLength={40} />
    <FormText name="email" label="E-mail" type="email" maxLength={254} />
    <FormSelect name="depot_id" label="Depot">
      <option value={0}>choose…</option>
      {depots.map((row) => (
        <option key={row.id} value={row.id}>
          {row.name}
        </option>
      ))}
    </FormSelect>
  </div>
);

/** Another depot holds from a day on: the days before it stay as they were. */
function AnotherDepot({ before }: { before: number }) {
  const chosen = Number(useWatch({ name: 'depot_id' }));
  if (chosen === before || chosen === 0) return null;
  return <FormDay name="valid_from" label="Days begin at this depot from" className="w-60" />;
}

/** The areas somebody works in; none ticked: everywhere. */
function Areas({ chosen, onChange }: { chosen: number[]; onChange: (chosen: number[]) => void }) {
  const areas = useCompany().data?.areas ?? [];
  if (areas.length === 0) return null;
  return (
    <fieldset>
      <legend className="text-xs font-semibold text-ink-soft">Areas; none ticked: works everywhere</legend>
      <div className="flex flex-wrap gap-x-3 gap-y-1 text-sm">
        {areas.map(({ id, name }) => (
          <label key={id} className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={chosen.includes(id)}
              onChange={(event) =>
                onChange(event.target.checked ? [...chosen, id] : chosen.filter((other) => other !== id))
              }
            />
            {name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
