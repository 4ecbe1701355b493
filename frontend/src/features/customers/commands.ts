import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaAssetIn, SchemaCustomerIn, SchemaSiteIn } from '@/api/types';

function useForget() {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ['customers'] });
}

export function useAddCustomer() {
  return useMutation({
    mutationFn: (body: SchemaCustomerIn) => data(api.POST('/api/customers', { body })),
    onSuccess: useForget(),
  });
}

export function useAddSite() {
  return useMutation({
    mutationFn: (body: SchemaSiteIn) => data(api.POST('/api/customers/sites', { body })),
    onSuccess: useForget(),
  });
}

export function useAddAsset() {
  return useMutation({
    mutationFn: (body: SchemaAssetIn) => data(api.POST('/api/customers/assets', { body })),
    onSuccess: useForget(),
  });
}
