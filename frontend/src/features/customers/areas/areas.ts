import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast, type ExternalToast } from 'sonner';
import { api, data } from '@/api/client';
import type { AreaShape } from '@/features/roads';

const KEY = ['areas'];

interface AreaFeature {
  id: number;
  geometry: AreaShape;
  properties: { name: string; version: number };
}

/** Areas with their outlines. */
export function useAreaShapes() {
  const found = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/v1/areas.geojson')) });
  const features = (found.data as { features?: AreaFeature[] } | undefined)?.features ?? [];
  const shapes = features.map(({ id, properties, geometry }) => ({ id, ...properties, polygon: geometry }));
  return { shapes, asOf: found.dataUpdatedAt };
}

export interface Area {
  id: number;
  name: string;
  version: number;
  polygon: AreaShape;
}

export interface DrawnArea {
  name: string;
  polygon: AreaShape;
  /** Which one it was; null: it is new. */
  of: Area | null;
}

/** Who is in an area. */
export const useAreaUses = (id: number) =>
  useQuery({
    queryKey: [...KEY, id, 'uses'],
    queryFn: () => data(api.GET('/api/v1/areas/{area_id}/uses', { params: { path: { area_id: id } } })),
  });

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
    mutationFn: ({ name, polygon, of }: DrawnArea) =>
      data(
        api.PUT('/api/v1/areas', {
          body: {
            name,
            polygon: polygon as unknown as Record<string, unknown>,
            area_id: of?.id ?? null,
            version: of?.version ?? 0,
          },
        }),
      ),
    onSuccess: (answer, { name }) => done(answer, `${name} is saved`),
  });
  const back = useMutation({
    mutationFn: ({ id }: Area) =>
      data(api.POST('/api/v1/areas/{area_id}/back', { params: { path: { area_id: id } } })),
    onSuccess: (answer, { name }) => done(answer, `${name} is back, with everybody who works there`),
  });
  const remove = useMutation({
    mutationFn: ({ id }: Area) =>
      data(api.DELETE('/api/v1/areas/{area_id}', { params: { path: { area_id: id } } })),
    onSuccess: (answer, area) =>
      done(answer, `${area.name} is off the map`, { label: 'Undo', onClick: () => back.mutate(area) }),
  });
  const take = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(api.POST('/api/v1/areas.geojson', { body: { file: '' }, bodySerializer: () => form }));
    },
    onSuccess: (answer) => done(answer, `${answer.made} areas taken`),
  });
  const merge = useMutation({
    mutationFn: ({ area, into }: { area: Area; into: number; name: string }) =>
      data(
        api.POST('/api/v1/areas/{area_id}/merge', {
          params: { path: { area_id: area.id } },
          body: { version: area.version, into },
        }),
      ),
    onSuccess: (answer, { area, name }) => done(answer, `${area.name} is part of ${name} now`),
  });
  return { keep, remove, take, merge, failure: keep.error ?? remove.error ?? back.error ?? take.error };
}
