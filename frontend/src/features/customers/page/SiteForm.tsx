import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaSiteWithAssetsOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { TextField } from '@/design/Field';
import { keepFile } from '@/design/FileList';
import { Questions } from '@/design/Questions';
import { useRecordFields } from '@/features/company';
import { useTechnicians } from '@/features/people';
import { AddressField, type PickedPlace } from '@/features/roads';
import type { Question } from '@/shared/questions';
import { useChangeSite } from '../commands';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
type Stance = 'either' | 'preferred' | 'refused' | 'required';

/** Change a site: access, opening hours, who is wanted there and who is not. */
export function SiteForm({ site, onDone }: { site: SchemaSiteWithAssetsOut; onDone: () => void }) {
  const [form, setForm] = useState({
    name: site.name,
    place: { address: site.address, lon: site.lon, lat: site.lat, area: site.area } as PickedPlace | null,
    access: site.access_notes,
    opening: site.opening.length === 7 ? site.opening : Array<string>(7).fill(''),
    extra: site.extra as Record<string, unknown>,
  });
  const [people, setPeople] = useState<Record<number, Stance>>(() => ({
    ...Object.fromEntries(site.preferred.map((row) => [row.id, 'preferred' as const])),
    ...Object.fromEntries(site.refused.map((row) => [row.id, 'refused' as const])),
    ...Object.fromEntries(site.required.map((row) => [row.id, 'required' as const])),
  }));
  const set = (changes: Partial<typeof form>) => setForm((old) => ({ ...old, ...changes }));
  const change = useChangeSite(site.id);
  const technicians = useTechnicians();
  const own = useRecordFields();
  const questions = (own.data?.find((row) => row.record === 'site')?.questions ??
    []) as unknown as Question[];
  const of = (stance: Stance) =>
    Object.entries(people)
      .filter(([, held]) => held === stance)
      .map(([id]) => Number(id));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!form.place) return;
    change.mutate(
      {
        version: site.version,
        name: form.name,
        address: form.place.address,
        lon: form.place.lon,
        lat: form.place.lat,
        access_notes: form.access,
        opening: form.opening,
        preferred: of('preferred'),
        refused: of('refused'),
        required: of('required'),
        extra: form.extra,
      },
      {
        onSuccess: () => {
          toast.success(`${form.name} changed`);
          onDone();
        },
      },
    );
  };
  return (
    <form
      onSubmit={submit}
      className="my-2 max-w-3xl space-y-2 border-l-2 border-copper pl-3"
      aria-label="Site"
    >
      <div className="grid grid-cols-2 gap-2">
        <TextField
          name="name"
          label="Name"
          value={form.name}
          onChange={(e) => set({ name: e.target.value })}
        />
        <AddressField picked={form.place} onPick={(place) => set({ place })} />
        <TextField label="Access" value={form.access} onChange={(e) => set({ access: e.target.value })} />
      </div>
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
              value={form.opening[index]}
              placeholder="closed"
              onChange={(event) =>
                set({ opening: form.opening.map((span, at) => (at === index ? event.target.value : span)) })
              }
            />
          ))}
        </div>
      </fieldset>
      <details className="text-sm" open={Object.keys(people).length > 0}>
        <summary className="cursor-pointer">Technicians wanted here, and not</summary>
        {of('required').length > 0 && (
          <p className="text-xs text-ink-soft">Only those marked “only these” may be sent here.</p>
        )}
        <ul className="grid grid-cols-2 gap-x-4">
          {(technicians.data ?? []).map((row) => (
            <li key={row.id} className="flex items-center justify-between gap-2">
              {row.name}
              <select
                aria-label={`${row.name} at ${site.name}`}
                className="rounded-sm border border-hairline bg-sheet text-xs"
                value={people[row.id] ?? 'either'}
                onChange={(event) => setPeople({ ...people, [row.id]: event.target.value as Stance })}
              >
                <option value="either">either way</option>
                <option value="preferred">preferred</option>
                <option value="refused">not wanted</option>
                <option value="required">only these</option>
              </select>
            </li>
          ))}
        </ul>
      </details>
      <Questions
        questions={questions}
        answers={form.extra}
        onChange={(extra) => set({ extra })}
        onFile={(file) => keepFile('site', site.id, file)}
      />
      <FormError error={change.error} />
      <div className="flex gap-2">
        <Button type="submit" rank="main" disabled={change.isPending || !form.place}>
          Keep changes
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
