import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type {
  SchemaAssetChangeIn,
  SchemaAssetIn,
  SchemaContactIn,
  SchemaContactOut,
  SchemaCustomerChangeIn,
  SchemaCustomerIn,
  SchemaSiteChangeIn,
  SchemaSiteIn,
} from '@/api/types';

function useForget() {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ['customers'] });
}

export const NEW_CUSTOMER: Omit<SchemaCustomerIn, 'name'> = {
  phone: '',
  email: '',
  contact_name: '',
  payer_id: null,
  payer_address: '',
  needs_po_number: false,
  tags: [],
  extra: {},
};

export function useAddCustomer() {
  return useMutation({
    mutationFn: (body: SchemaCustomerIn) => data(api.POST('/api/v1/customers', { body })),
    onSuccess: useForget(),
  });
}

export function useChangeCustomer(id: number) {
  return useMutation({
    mutationFn: (body: SchemaCustomerChangeIn) =>
      data(api.PUT('/api/v1/customers/{customer_id}', { params: { path: { customer_id: id } }, body })),
    onSettled: useForget(),
  });
}

export function usePutContact(id: number) {
  return useMutation({
    mutationFn: (body: SchemaContactIn) =>
      data(
        api.PUT('/api/v1/customers/{customer_id}/contacts', { params: { path: { customer_id: id } }, body }),
      ),
    onSettled: useForget(),
  });
}

/** Taken off in one press, and put back in one. */
export function useRemoveContact(id: number) {
  const put = usePutContact(id);
  return useMutation({
    mutationFn: (contact: SchemaContactOut) =>
      data(
        api.DELETE('/api/v1/customers/{customer_id}/contacts/{contact_id}', {
          params: { path: { customer_id: id, contact_id: contact.id } },
        }),
      ),
    onSuccess: (_nothing, contact) =>
      toast.success(`${contact.name} is removed`, {
        action: {
          label: 'Undo',
          onClick: () =>
            put.mutate({
              ...contact,
              id: null,
              anyway: true,
              channel: contact.channel as SchemaContactIn['channel'],
            }),
        },
      }),
    onError: (error) => toast.error(sentenceOf(error)),
    onSettled: useForget(),
  });
}

export function useMerge() {
  return useMutation({
    mutationFn: (body: { kept_id: number; gone_id: number }) =>
      data(api.POST('/api/v1/customers/merges', { body })),
    onSettled: useForget(),
  });
}

export function useUndoMerge() {
  return useMutation({
    mutationFn: (mergeId: number) =>
      data(api.POST('/api/v1/customers/merges/{merge_id}/undo', { params: { path: { merge_id: mergeId } } })),
    onSettled: useForget(),
  });
}

export function useAddNote(id: number) {
  return useMutation({
    mutationFn: (text: string) =>
      data(
        api.POST('/api/v1/customers/{customer_id}/notes', {
          params: { path: { customer_id: id } },
          body: { text },
        }),
      ),
    onSettled: useForget(),
  });
}

export function useAddSite() {
  return useMutation({
    mutationFn: (body: SchemaSiteIn) => data(api.POST('/api/v1/sites', { body })),
    onSuccess: useForget(),
  });
}

export function useChangeSite(id: number) {
  return useMutation({
    mutationFn: (body: SchemaSiteChangeIn) =>
      data(api.PUT('/api/v1/sites/{site_id}', { params: { path: { site_id: id } }, body })),
    onSettled: useForget(),
  });
}

export function useAddAsset() {
  return useMutation({
    mutationFn: (body: SchemaAssetIn) => data(api.POST('/api/v1/assets', { body })),
    onSuccess: useForget(),
  });
}

export function useChangeAsset(id: number) {
  return useMutation({
    mutationFn: (body: SchemaAssetChangeIn) =>
      data(api.PUT('/api/v1/assets/{asset_id}', { params: { path: { asset_id: id } }, body })),
    onSettled: useForget(),
  });
}
