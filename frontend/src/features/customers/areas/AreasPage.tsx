import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { toast, type ExternalToast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { AreaEditor, type AreaShape } from '@/features/roads';

const KEY = ['areas'];

/** The areas in which technicians work: drawn and edited on the map; every site finds its area anew. */
export function AreasPage() {
  const client = useQueryClient();
  const canChange = may(useSession(), 'change_settings');
  const [chosen, setChosen] = useState<string | null>(null);
  const [drawn, setDrawn] = useState<AreaShape | null>(null);
  const [name, setName] = useState('');
  const areas = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/v1/areas.geojson')) });
  const shapes = ((areas.data as { features?: AreaFeature[] } | undefined)?.features ?? []).map(
    (feature) => ({
      name: feature.properties.name,
      polygon: feature.geometry,
    }),
  );
  const done = (answer: { problems: string[] }, words: string, action?: ExternalToast['action']) => {
    toast.success([words, ...answer.problems].join('. '), action ? { action, duration: 20_000 } : {});
    void client.invalidateQueries({ queryKey: KEY });
    void client.invalidateQueries({ queryKey: ['company'] });
    setDrawn(null);
    setChosen(null);
    setName('');
  };
  const keep = useMutation({
    mutationFn: () =>
      data(
        api.PUT('/api/v1/areas', {
          body: { name, polygon: drawn as unknown as Record<string, unknown>, was: chosen },
        }),
      ),
    onSuccess: (answer) => done(answer, `${name} is kept`),
  });
  const back = useMutation({
    mutationFn: (gone: string) =>
      data(api.POST('/api/v1/areas/{name}/back', { params: { path: { name: gone } } })),
    onSuccess: (answer, gone) => done(answer, `${gone} is back, with everybody who works there`),
  });
  const remove = useMutation({
    mutationFn: (gone: string) =>
      data(api.DELETE('/api/v1/areas/{name}', { params: { path: { name: gone } } })),
    onSuccess: (answer, gone) =>
      done(answer, `${gone} is off the map`, { label: 'Undo', onClick: () => back.mutate(gone) }),
  });
  const take = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(api.POST('/api/v1/areas.geojson', { body: { file: '' }, bodySerializer: () => form }));
    },
    onSuccess: (answer) => done(answer, `${answer.made} areas taken`),
  });
  const failure = keep.error ?? remove.error ?? back.error ?? take.error;
  const shown = chosen ? shapes.find((shape) => shape.name === chosen) : undefined;
  return (
    <div className="grid h-full min-h-0 grid-cols-[17rem_minmax(0,1fr)]">
      <div className="min-h-0 space-y-2 overflow-y-auto border-r border-hairline p-3 text-sm">
        <h1 className="text-lg font-semibold">Areas</h1>
        <p className="text-ink-soft">
          {canChange
            ? 'Choose one to change its outline, or click around a new one on the map.'
            : 'An administrator draws them.'}
        </p>
        <ul className="divide-y divide-hairline border-y border-hairline" aria-label="Areas">
          {shapes.map((shape) => (
            <li
              key={shape.name}
              className={`flex justify-between ${shape.name === chosen ? 'bg-copper-wash' : ''}`}
            >
              <button
                type="button"
                className="flex-1 px-1 py-1 text-left hover:underline"
                onClick={() => {
                  setChosen(shape.name);
                  setName(shape.name);
                  setDrawn(shape.polygon);
                }}
              >
                {shape.name}
              </button>
              {canChange && (
                <button
                  type="button"
                  aria-label={`Remove ${shape.name}`}
                  className="px-2 text-ink-soft"
                  onClick={() => remove.mutate(shape.name)}
                >
                  ✕
                </button>
              )}
            </li>
          ))}
        </ul>
        {canChange && (
          <>
            <Button
              onClick={() => {
                setChosen(null);
                setDrawn(null);
                setName('');
              }}
            >
              Draw a new one
            </Button>
            {drawn && (
              <form
                className="space-y-1"
                aria-label="Area"
                onSubmit={(event) => {
                  event.preventDefault();
                  keep.mutate();
                }}
              >
                <TextField label="Name" value={name} onChange={(event) => setName(event.target.value)} />
                <Button type="submit" rank="main" disabled={!name.trim() || keep.isPending}>
                  Keep area
                </Button>
              </form>
            )}
            <label className="flex min-h-8 cursor-pointer items-center gap-2 underline focus-within:outline-2">
              <FileUp size={15} aria-hidden /> take areas from GeoJSON
              <input
                type="file"
                className="sr-only"
                onChange={(event) => {
                  const [file] = event.target.files ?? [];
                  if (file) take.mutate(file);
                  event.target.value = '';
                }}
              />
            </label>
          </>
        )}
        <a className="block underline" href="/api/v1/areas.geojson" download="areas.geojson">
          areas.geojson
        </a>
        {failure && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
      </div>
      <AreaEditor
        key={`${chosen ?? 'new'} ${areas.dataUpdatedAt}`}
        shapes={shapes.filter((shape) => shape.name !== chosen)}
        edited={shown?.polygon ?? null}
        onDraw={canChange ? setDrawn : undefined}
      />
    </div>
  );
}

interface AreaFeature {
  geometry: AreaShape;
  properties: { name: string };
}
