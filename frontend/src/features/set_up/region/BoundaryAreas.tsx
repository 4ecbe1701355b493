import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import type { SchemaBoundaryOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';

/** So many are listed at once; typing narrows them. */
const LISTED = 100;

/** Areas with the outlines of districts and towns, instead of drawn ones. */
export function BoundaryAreas({ boundaries }: { boundaries: SchemaBoundaryOut[] }) {
  const client = useQueryClient();
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState<number[]>([]);
  const make = useMutation({
    mutationFn: () => data(api.POST('/api/v1/areas/from-boundaries', { body: { numbers: chosen } })),
    onSuccess: ({ made, problems }) => {
      toast.success([made === 1 ? 'One area is made' : `${made} areas are made`, ...problems].join('; '));
      setChosen([]);
      void client.invalidateQueries({ queryKey: ['company'] });
      void client.invalidateQueries({ queryKey: ['areas'] });
    },
  });
  if (boundaries.length === 0) return null;
  const found = boundaries.filter(({ name }) => name.toLowerCase().includes(typed.trim().toLowerCase()));
  return (
    <section aria-label="Areas from boundaries" className="space-y-2">
      <h2 className="font-semibold">Areas from boundaries</h2>
      <p className="text-ink-soft">
        Tick the districts and towns that technicians work in; each becomes an area with its outline.
      </p>
      <TextField
        label="Find by name"
        className="w-64"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <ul className="columns-3" aria-label="Boundaries">
        {found.slice(0, LISTED).map(({ number, name, level }) => (
          <li key={number}>
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={chosen.includes(number)}
                onChange={(event) =>
                  setChosen(
                    event.target.checked ? [...chosen, number] : chosen.filter((own) => own !== number),
                  )
                }
              />
              {name} <span className="text-ink-soft">level {level}</span>
            </label>
          </li>
        ))}
      </ul>
      {found.length > LISTED && <p className="text-ink-soft">{found.length - LISTED} more: type a name.</p>}
      <Button disabled={chosen.length === 0 || make.isPending} onClick={() => make.mutate()}>
        {chosen.length < 2 ? 'Make the area' : `Make ${chosen.length} areas`}
      </Button>
      <FormError error={make.error} />
    </section>
  );
}
