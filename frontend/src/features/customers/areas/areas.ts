import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast, type ExternalToast } from 'sonner';
import { api, data } from '@/api/client';
import type { AreaShape } from '@/features/roads';

const KEY = ['areas'];

interface AreaFeature {
  geometry: AreaShape;
  properties: { name: string };
}

/** Areas with their outlines. */
export function useAreaShapes() {
  const found = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/v1/areas.geojson')) });
  const features = (found.data as { features?: AreaFeature[] } | undefined)?.features ?? [];
  const shapes = features.map(({ properties, geometry }) => ({ name: properties.name, polygon: geometry }));
  return { shapes, asOf: found.dataUpdatedAt };
}

export interface DrawnArea {
  name: string;
  polygon: AreaShape;
  /** What it was called before; null: it is new. */
  was: string | null;
}

/** Everything that changes areas; every site then finds its area anew, and what that leads to is said. */
export function useAreaChanges(onDone: () => void) {
  const client = useQueryClient();
  const done = (answer: { problems: string[] }, words: string, action?: ExternalToast['action']) => {
    toast.success([words, ...answer.problems].join('. '), action ? { action, duration: 20_000 } : {});
    void client.invalidateQueries({ queryKey: KEY });
    void client.invalidateQueries({ queryKey: ['company'] });
    onDone();
  };
  const keep = useMutation({
    mutationFn: ({ name, polygon, was }: DrawnArea) =>
      data(
        api.PUT('/api/v1/areas', {
          body: { name, polygon: polygon as unknown as Record<string, unknown>, was },
        }),
      ),
    onSuccess: (answer, { name }) => done(answer, `${name} is kept`),
  });
  const back = useMutation({
    mutationFn: (name: string) => data(api.POST('/api/v1/areas/{name}/back', { params: { path: { name } } })),
    onSuccess: (answer, name) => done(answer, `${name} is back, with everybody who works there`),
  });
  const remove = useMutation({
    mutationFn: (name: string) => data(api.DELETE('/api/v1/areas/{name}', { params: { path: { name } } })),
    onSuccess: (answer, name) =>
      done(answer, `${name} is off the map`, { label: 'Undo', onClick: () => back.mutate(name) }),
  });
  const take = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(api.POST('/api/v1/areas.geojson', { body: { file: '' }, bodySerializer: () => form }));
    },
    onSuccess: (answer) => done(answer, `${answer.made} areas taken`),
  });
  return { keep, remove, take, failure: keep.error ?? remove.error ?? back.error ?? take.error };
}
