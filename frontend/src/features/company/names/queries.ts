import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import type { SchemaKeyNameOut, SchemaVehicleIn } from '@/api/types';
import { KINDS, type Kind } from './kinds';

/** All of a kind, by name; what was merged into another is not among them. */
export function useNames(kind: Kind) {
  return useQuery({ queryKey: [kind.key], queryFn: kind.list, staleTime: 300_000 });
}

export const useTags = () => useNames(KINDS.tags);

/** What the tags with these keys are called, as one text. */
export function useTagWords(): (codes: readonly string[]) => string {
  const rows = useTags().data;
  return useCallback(
    (codes) => codes.map((code) => rows?.find((row) => row.code === code)?.name ?? code).join(', '),
    [rows],
  );
}

export function useUses(kind: Kind, code: string) {
  return useQuery({ queryKey: [kind.key, 'uses', code], queryFn: () => kind.uses(code) });
}

const vehicleKey = (code: string) => [KINDS.vehicles.key, code] as const;

/** A vehicle with what is known of it. */
export const useVehicle = (code: string) =>
  useQuery({
    queryKey: vehicleKey(code),
    queryFn: () => data(api.GET('/api/v1/people/vehicles/{code}', { params: { path: { code } } })),
  });

export function useSetVehicle(code: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SchemaVehicleIn) =>
      data(api.PUT('/api/v1/people/vehicles/{code}/facts', { params: { path: { code } }, body })),
    onSettled: () => client.invalidateQueries({ queryKey: [KINDS.vehicles.key] }),
  });
}

/** Everything that can be done to one of a kind. */
export function useNaming(kind: Kind, onDone: (row: SchemaKeyNameOut) => void) {
  const client = useQueryClient();
  const shared = { onSettled: () => client.invalidateQueries({ queryKey: [kind.key] }) };
  const add = useMutation({ mutationFn: kind.add, onSuccess: onDone, ...shared });
  const change = useMutation({
    mutationFn: ({ row, ...body }: { row: SchemaKeyNameOut; name: string; retired: boolean }) =>
      kind.change(row.code, { ...body, version: row.version }),
    onSuccess: onDone,
    ...shared,
  });
  const merge = useMutation({
    mutationFn: ({ row, into }: { row: SchemaKeyNameOut; into: string }) =>
      kind.merge(row.code, { version: row.version, into }),
    onSuccess: (kept, { row }) => {
      toast.success(`${row.name} is ${kept.name} now, everywhere`);
      onDone(kept);
    },
    ...shared,
  });
  return { add, change, merge };
}
