import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaRecordFieldsIn } from '@/api/types';
import { settingsKey } from './queries';

export function useChangeSettings() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { version: number; changes: Record<string, unknown> }) =>
      data(api.POST('/api/v1/company/settings', { body })),
    onSettled: () => {
      // How days and times are shown came with who is signed in.
      void client.invalidateQueries({ queryKey: ['session'] });
      return client.invalidateQueries({ queryKey: settingsKey });
    },
  });
}

export function useChangeFields() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ record, ...body }: { record: string } & SchemaRecordFieldsIn) =>
      data(api.PUT('/api/v1/company/fields/{record}', { params: { path: { record } }, body })),
    onSettled: () => client.invalidateQueries({ queryKey: settingsKey }),
  });
}

/** Make an own field one with another of the same kind of record. */
export function useMergeField() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ record, key, ...body }: { record: string; key: string; version: number; into: string }) =>
      data(
        api.POST('/api/v1/company/fields/{record}/{key}/merge', { params: { path: { record, key } }, body }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: settingsKey }),
  });
}
