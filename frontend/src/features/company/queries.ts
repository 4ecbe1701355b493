import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import { onChange } from '@/shared/live';

export const settingsKey = ['company'] as const;

export function useCompany() {
  return useQuery({
    queryKey: [...settingsKey, 'company'],
    queryFn: () => data(api.GET('/api/v1/company')),
    staleTime: 300_000,
  });
}

/** The company's settings with their explanations. */
export function useSettings() {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'company') void client.invalidateQueries({ queryKey: settingsKey });
      }),
    [client],
  );
  return useQuery({
    queryKey: [...settingsKey, 'settings'],
    queryFn: () => data(api.GET('/api/v1/company/settings')),
    staleTime: 300_000,
  });
}

/** One setting's value, or what to use until it is known. */
export function useSetting<T>(key: string, until: T): T {
  const settings = useSettings();
  const row = settings.data?.settings.find((setting) => setting.key === key);
  return row ? (row.value as T) : until;
}

/** The company's own fields, by kind of record. */
export function useRecordFields() {
  return useQuery({
    queryKey: [...settingsKey, 'fields'],
    queryFn: () => data(api.GET('/api/v1/company/fields')),
    staleTime: 300_000,
  });
}
