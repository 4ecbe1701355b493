import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaSiteWithAssetsOut } from '@/api/types';
import { TextField } from '@/design/Field';
import { keepFile } from '@/design/FileList';
import { Form, FormText, FormValue, KeepOrLeave, useKeptForm } from '@/design/form';
import { FormOwnFields } from '@/design/formValues';
import { useRecordFields } from '@/features/company';
import { useTechnicians } from '@/features/people';
import { FormAddress, type PickedPlace } from '@/features/roads';
import { useChangeSite } from '../commands';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const STANCES = ['either', 'preferred', 'refused', 'required'] as const;
type Stance = (typeof STANCES)[number];
type People = Record<string, Stance>;

const schema = z.object({
  name: z.string().trim().min(1, 'A site needs a name.'),
  place: z
    .custom<PickedPlace | null>()
    .refine((place): place is PickedPlace => place !== null, 'Choose where it is.'),
  access_notes: z.string(),
  opening: z.array(z.string()),
  people: z.record(z.string(), z.enum(STANCES)),
  extra: z.record(z.string(), z.unknown()),
});

const stances = (site: SchemaSiteWithAssetsOut): People => ({
  ...Object.fromEntries(site.preferred.map((row) => [row.id, 'preferred' as const])),
  ...Object.fromEntries(site.refused.map((row) => [row.id, 'refused' as const])),
  ...Object.fromEntries(site.required.map((row) => [row.id, 'required' as const])),
});

const those = (people: People, stance: Stance) =>
  Object.entries(people)
    .filter(([, held]) => held === stance)
    .map(([id]) => Number(id));

interface Props {
  site: SchemaSiteWithAssetsOut;
  onDone: () => void;
}

/** Change a site: access, opening hours, who is wanted there and who is not. */
export function SiteForm({ site, onDone }: Props) {
  const change = useChangeSite(site.id);
  const own = useRecordFields().data?.find((row) => row.record === 'site')?.questions ?? [];
  const kept = useKeptForm({
    schema,
    values: {
      name: site.name,
      place: { address: site.address, lon: site.lon, lat: site.lat, area: site.area } as PickedPlace | null,
      access_notes: site.access_notes,
      opening: site.opening.length === 7 ? site.opening : Array<string>(7).fill(''),
      people: stances(site),
      extra: site.extra as Record<string, unknown>,
    },
    keep: async ({ place, people, ...rest }) => {
      const { address, lon, lat } = place as PickedPlace;
      await change.mutateAsync({
        ...rest,
        version: site.version,
        address,
        lon,
        lat,
        preferred: those(people, 'preferred'),
        refused: those(people, 'refused'),
        required: those(people, 'required'),
      });
      toast.success(`${rest.name} changed`);
      onDone();
    },
  });
  const people = useWatch({ control: kept.form.control, name: 'people' });
  return (
    <Form kept={kept} label="Site" className="my-2 max-w-3xl space-y-2 border-l-2 border-copper pl-3">
      <div className="grid grid-cols-2 gap-2">
        <FormText name="name" label="Name" />
        <FormAddress name="place" />
        <FormText name="access_notes" label="Access" />
      </div>
      <OpeningHours />
      <details className="text-sm" open={Object.keys(people).length > 0}>
        <summary className="cursor-pointer">Technicians wanted here, and not</summary>
        {those(people, 'required').length > 0 && (
          <p className="text-xs text-ink-soft">Only those marked “only these” may be sent here.</p>
        )}
        <WantedPeople site={site.name} />
      </details>
      <FormOwnFields name="extra" questions={own} onFile={(file) => keepFile('site', site.id, file)} />
      <KeepOrLeave words="Save changes" onLeave={onDone} />
    </Form>
  );
}

const OpeningHours = () => (
  <FormValue name="opening">
    {({ value, onChange, error }) => (
      <fieldset>
        <legend className="text-xs font-semibold text-ink-soft">
          Opening hours, like 08:00-17:00; all empty: always open
        </legend>
        <div className="grid grid-cols-7 gap-1">
          {DAYS.map((day, index) => (
            <TextField
              key={day}
              name="opening"
              label={day}
              value={(value as string[])[index]}
              placeholder="closed"
              aria-invalid={error ? true : undefined}
              onChange={(event) =>
                onChange(
                  (value as string[]).map((span, place) => (place === index ? event.target.value : span)),
                )
              }
            />
          ))}
        </div>
        {error && (
          <p role="alert" className="text-xs text-bad">
            {error}
          </p>
        )}
      </fieldset>
    )}
  </FormValue>
);

function WantedPeople({ site }: { site: string }) {
  const technicians = useTechnicians();
  return (
    <FormValue name="people">
      {({ value, onChange }) => (
        <ul className="grid grid-cols-2 gap-x-4">
          {(technicians.data ?? []).map((row) => (
            <li key={row.id} className="flex items-center justify-between gap-2">
              {row.name}
              <select
                aria-label={`${row.name} at ${site}`}
                className="rounded-sm border border-hairline bg-sheet text-xs"
                value={(value as People)[row.id] ?? 'either'}
                onChange={(event) => onChange({ ...(value as People), [row.id]: event.target.value })}
              >
                <option value="either">either way</option>
                <option value="preferred">preferred</option>
                <option value="refused">not wanted</option>
                <option value="required">only these</option>
              </select>
            </li>
          ))}
        </ul>
      )}
    </FormValue>
  );
}
