import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaCompanyChangeIn, SchemaCompanyOut } from '@/api/types';

export const settingsKey = ['company'] as const;

export function useCompany() {
  return useQuery({
    queryKey: [...settingsKey, 'company'],
    queryFn: () => data(api.GET('/api/v1/company')),
    staleTime: 300_000,
  });
}

/** What answers with the company as it is now; the frame shows its name too. */
function useCompanyAnswer() {
  const client = useQueryClient();
  return (row: SchemaCompanyOut) => {
    client.setQueryData([...settingsKey, 'company'], row);
    void client.invalidateQueries({ queryKey: settingsKey });
  };
}

export function useChangeCompany() {
  const onSuccess = useCompanyAnswer();
  return useMutation({
    mutationFn: (body: SchemaCompanyChangeIn) => data(api.PUT('/api/v1/company', { body })),
    onSuccess,
  });
}

export function useLogo() {
  const onSuccess = useCompanyAnswer();
  const put = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(api.POST('/api/v1/company/logo', { body: { file: '' }, bodySerializer: () => form }));
    },
    onSuccess,
  });
  const remove = useMutation({ mutationFn: () => data(api.DELETE('/api/v1/company/logo')), onSuccess });
  return { put, remove };
}

/** Countries whose public holidays are known. */
export const useCountries = () =>
  useQuery({
    queryKey: ['countries'],
    queryFn: () => data(api.GET('/api/v1/company/countries')),
    staleTime: Infinity,
  });

/** The company's settings with their explanations. */
export function useSettings() {
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

/** Who answers an own field. */
export const useFieldUses = (record: string, key: string) =>
  useQuery({
    queryKey: [...settingsKey, 'fields', record, key],
    queryFn: () =>
      data(api.GET('/api/v1/company/fields/{record}/{key}/uses', { params: { path: { record, key } } })),
  });
