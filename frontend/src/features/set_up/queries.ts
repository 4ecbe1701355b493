import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type {
  SchemaDepotChangeIn,
  SchemaDepotIn,
  SchemaTechnicianChangeIn,
  SchemaTechnicianIn,
  SchemaTechnicianRecordOut,
  SchemaWeekIn,
} from '@/api/types';
import { settingsKey } from '@/features/company';

const technicianKey = (id: number) => ['technician', id] as const;

/** All that is set up of a technician. */
export function useTechnician(id: number | null) {
  return useQuery({
    queryKey: technicianKey(id ?? 0),
    enabled: id !== null,
    queryFn: () =>
      data(api.GET('/api/v1/technicians/{technician_id}', { params: { path: { technician_id: id! } } })),
  });
}

/** Everything that sets a technician up; lists of people and the board are fetched anew. */
export function useSetTechnician() {
  const client = useQueryClient();
  const done = (row: SchemaTechnicianRecordOut) => {
    client.setQueryData(technicianKey(row.id), row);
    void client.invalidateQueries({ queryKey: ['technicians'] });
    void client.invalidateQueries({ queryKey: ['schedule'] });
  };
  const path = (id: number) => ({ params: { path: { technician_id: id } } });
  const add = useMutation({
    mutationFn: (body: SchemaTechnicianIn) => data(api.POST('/api/v1/technicians', { body })),
    onSuccess: done,
  });
  const change = useMutation({
    mutationFn: ({ id, ...body }: SchemaTechnicianChangeIn & { id: number }) =>
      data(api.PUT('/api/v1/technicians/{technician_id}', { ...path(id), body })),
    onSuccess: done,
  });
  const week = useMutation({
    mutationFn: ({ id, ...body }: SchemaWeekIn & { id: number }) =>
      data(api.PUT('/api/v1/technicians/{technician_id}/week', { ...path(id), body })),
    onSuccess: done,
  });
  return { add, change, week };
}

/** A depot, new or changed. */
export function useSetDepot() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: settingsKey });
  const add = useMutation({
    mutationFn: (body: SchemaDepotIn) => data(api.POST('/api/v1/depots', { body })),
    onSuccess,
  });
  const change = useMutation({
    mutationFn: ({ id, ...body }: SchemaDepotChangeIn & { id: number }) =>
      data(api.PUT('/api/v1/depots/{depot_id}', { params: { path: { depot_id: id } }, body })),
    onSuccess,
  });
  return { add, change };
}
