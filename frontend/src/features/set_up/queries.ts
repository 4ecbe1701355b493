import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type {
  SchemaCertificatesIn,
  SchemaDepotChangeIn,
  SchemaDepotIn,
  SchemaDepotOut,
  SchemaEmploymentIn,
  SchemaSkillsRowOut,
  SchemaTechnicianChangeIn,
  SchemaTechnicianIn,
  SchemaTechnicianRecordOut,
  SchemaTermsIn,
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
  const certificates = useMutation({
    mutationFn: ({ id, ...body }: SchemaCertificatesIn & { id: number }) =>
      data(api.PUT('/api/v1/technicians/{technician_id}/certificates', { ...path(id), body })),
    onSuccess: done,
  });
  const employment = useMutation({
    mutationFn: ({ id, ...body }: SchemaEmploymentIn & { id: number }) =>
      data(api.PUT('/api/v1/technicians/{technician_id}/employment', { ...path(id), body })),
    onSuccess: done,
  });
  return { add, change, week, certificates, employment };
}

/** Who is at a depot. */
export const useDepotUses = (id: number) =>
  useQuery({
    queryKey: ['technician', 'of depot', id],
    queryFn: () =>
      data(api.GET('/api/v1/people/depots/{depot_id}/uses', { params: { path: { depot_id: id } } })),
  });

/** Offering a depot no longer, and making two into one. */
export function useEndDepot(depot: SchemaDepotOut) {
  const client = useQueryClient();
  const at = { params: { path: { depot_id: depot.id } } };
  const onSuccess = () => client.invalidateQueries({ queryKey: settingsKey });
  const retire = useMutation({
    mutationFn: () =>
      data(
        api.POST('/api/v1/depots/{depot_id}/retired', {
          ...at,
          body: { version: depot.version, retired: !depot.retired },
        }),
      ),
    onSuccess,
  });
  const merge = useMutation({
    mutationFn: (into: number) =>
      data(
        api.POST('/api/v1/people/depots/{depot_id}/merge', { ...at, body: { version: depot.version, into } }),
      ),
    onSuccess,
  });
  return { retire, merge };
}

const termsKey = (id: number) => ['technician', id, 'terms'] as const;

/** How somebody works: only for who may change it. */
export const useTerms = (id: number) =>
  useQuery({
    queryKey: termsKey(id),
    queryFn: () =>
      data(api.GET('/api/v1/technicians/{technician_id}/terms', { params: { path: { technician_id: id } } })),
  });

export function useSetTerms(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SchemaTermsIn) =>
      data(
        api.PUT('/api/v1/technicians/{technician_id}/terms', {
          params: { path: { technician_id: id } },
          body,
        }),
      ),
    onSuccess: async (row) => {
      client.setQueryData(termsKey(id), row);
      await client.invalidateQueries({ queryKey: technicianKey(id) });
      void client.invalidateQueries({ queryKey: ['schedule'] });
    },
  });
}

export const useVehicles = () =>
  useQuery({ queryKey: ['vehicles'], queryFn: () => data(api.GET('/api/v1/people/vehicles')) });

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

/** A technician's photo. The browser keeps pictures for an hour: the new one is fetched at once. */
export function usePhoto(id: number) {
  const client = useQueryClient();
  const at = { params: { path: { technician_id: id } } };
  const address = '/api/v1/technicians/{technician_id}/portrait';
  const onSuccess = async () => {
    await api.GET(address, { ...at, parseAs: 'blob', cache: 'reload' });
    await client.invalidateQueries({ queryKey: technicianKey(id) });
  };
  const put = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(api.POST(address, { ...at, body: { file: '' }, bodySerializer: () => form }));
    },
    onSuccess,
  });
  const remove = useMutation({ mutationFn: () => data(api.DELETE(address, at)), onSuccess });
  return { put, remove };
}

const sheetKey = ['technician', 'skills'] as const;

/** Everybody's skills. */
export const useSkillsSheet = () =>
  useQuery({ queryKey: sheetKey, queryFn: () => data(api.GET('/api/v1/technicians/skills')) });

/** One level in the sheet. One after the other: each answer has the version that the next one names. */
export function useSetSkill() {
  const client = useQueryClient();
  return useMutation({
    scope: { id: 'skills' },
    mutationFn: ({ id, code, level }: { id: number; code: string; level: number | null }) => {
      const rows = client.getQueryData<SchemaSkillsRowOut[]>(sheetKey) ?? [];
      const version = rows.find((row) => row.id === id)!.version;
      const path = { params: { path: { technician_id: id } } };
      return data(
        api.PUT('/api/v1/technicians/{technician_id}/skill', { ...path, body: { version, code, level } }),
      );
    },
    onSuccess: (row) =>
      client.setQueryData<SchemaSkillsRowOut[]>(sheetKey, (rows) =>
        rows?.map((other) => (other.id === row.id ? row : other)),
      ),
    // Somebody else was faster: the sheet shows what they did.
    onError: () => client.invalidateQueries({ queryKey: sheetKey }),
  });
}
