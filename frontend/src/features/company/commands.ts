import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaRecordFieldsIn } from '@/api/types';
import { settingsKey } from './queries';

export function useChangeSettings() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { version: number; changes: Record<string, unknown> }) =>
      data(api.POST('/api/v1/company/settings', { body })),
    onSettled: () => client.invalidateQueries({ queryKey: settingsKey }),
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
