import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaBulkIn, SchemaPlannedOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { useTechnicians } from '@/features/people';
import { stamp } from '@/shared/time';

interface Props {
  technicianId: number;
  /** The last day of work. */
  after: string;
}

/** What is planned after somebody's last day, and who gets it. */
export function HandOver({ technicianId, after }: Props) {
  const planned = useQuery({
    queryKey: ['schedule', 'planned after', technicianId, after],
    queryFn: () =>
      data(
        api.GET('/api/v1/board/planned-after/{technician_id}', {
          params: { path: { technician_id: technicianId }, query: { day: after } },
        }),
      ),
  });
  if (planned.isError) return <Notice tone="bad">{sentenceOf(planned.error)}</Notice>;
  if (!planned.data) return null;
  if (planned.data.length === 0)
    return <p className="text-sm text-ink-soft">Nothing is planned after that day.</p>;
  return (
    <Visits technicianId={technicianId} visits={planned.data.slice(0, MOST)} all={planned.data.length} />
  );
}

/** So many are done at once; the next ones stand there afterwards. */
const MOST = 200;

const counted = (count: number) => (count === 1 ? '1 visit' : `${count} visits`);

/** What would become of the visits, read before it is done. */
function useHandOver(visits: SchemaPlannedOut[], who: number | null) {
  const client = useQueryClient();
  const body: SchemaBulkIn = {
    visits: visits.map(({ id, version }) => ({ id, version })),
    kind: who === null ? 'unplace' : 'give',
    day: null,
    technician_id: who,
    seconds: 0,
    because: '',
    tell: '',
    preview: true,
  };
  const preview = useQuery({
    queryKey: ['schedule', 'bulk', body],
    queryFn: ({ signal }) => data(api.POST('/api/v1/board/bulk', { body, signal })),
    retry: false,
  });
  const hand = useMutation({
    mutationFn: () => data(api.POST('/api/v1/board/bulk', { body: { ...body, preview: false } })),
    onSuccess: ({ done }) => toast.success(`${counted(done)} handed over`),
    onSettled: () => client.invalidateQueries({ queryKey: ['schedule'] }),
  });
  return { preview, hand };
}

interface VisitsProps {
  technicianId: number;
  visits: SchemaPlannedOut[];
  /** How many there are, shown or not. */
  all: number;
}

function Visits({ technicianId, visits, all }: VisitsProps) {
  const people = (useTechnicians().data ?? []).filter(({ id }) => id !== technicianId);
  const [who, setWho] = useState<number | null>(null);
  const { preview, hand } = useHandOver(visits, who);
  const outcomes = new Map((preview.data?.outcomes ?? []).map((row) => [row.visit_id, row]));
  const possible = preview.data?.outcomes.filter((row) => !row.problem).length ?? 0;
  return (
    <section aria-label="Hand over" className="space-y-2 text-sm">
      <p className="text-warn">
        {counted(all)} planned after the last day.
        {all > visits.length && ` The first ${visits.length} are shown and handed over at once.`}
      </p>
      <ul className="divide-y divide-hairline border-y border-hairline">
        {visits.map(({ id, number, site, start }) => (
          <li key={id} className="grid grid-cols-[9rem_14rem_1fr] gap-2 py-1">
            <span>{stamp(start)}</span>
            <span>
              {number} {site}
            </span>
            <span className={outcomes.get(id)?.problem ? 'text-bad' : 'text-ink-soft'}>
              {outcomes.get(id)?.problem || outcomes.get(id)?.sentence}
            </span>
          </li>
        ))}
      </ul>
      <div className="flex items-end gap-2">
        <SelectField
          label="They go to"
          value={who ?? 0}
          onChange={(event) => setWho(Number(event.target.value) || null)}
        >
          <option value={0}>the backlog</option>
          {people.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}, at the first times that fit
            </option>
          ))}
        </SelectField>
        <Button disabled={possible === 0 || hand.isPending} onClick={() => hand.mutate()}>
          Hand over {possible === visits.length ? 'all of them' : `${possible} of ${visits.length}`}
        </Button>
      </div>
      <FormError error={hand.error ?? preview.error} />
    </section>
  );
}
