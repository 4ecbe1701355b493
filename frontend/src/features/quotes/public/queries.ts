import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import type { SchemaApproveIn, SchemaAskIn, SchemaChoiceIn, SchemaRefuseIn } from '@/api/types';

const key = (address: string) => ['public quote', address];
const at = (address: string) => ({ path: { address } });

/** The quote at an address, and that somebody looks at it. */
export function usePresented(address: string) {
  useEffect(() => {
    void api.POST('/api/v1/public/quotes/{address}/seen', { params: at(address) }).catch(() => null);
  }, [address]);
  return useQuery({
    queryKey: key(address),
    queryFn: () => data(api.GET('/api/v1/public/quotes/{address}', { params: at(address) })),
    retry: false,
  });
}

/** What a choice comes to: counted where it is signed. */
export function useChoice(address: string, choice: SchemaChoiceIn, isOn: boolean) {
  return useQuery({
    queryKey: [...key(address), 'total', choice],
    enabled: isOn,
    queryFn: ({ signal }) =>
      data(api.POST('/api/v1/public/quotes/{address}/total', { params: at(address), body: choice, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
}

function useAct<Body>(address: string, act: (body: Body) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSettled: () => client.invalidateQueries({ queryKey: key(address) }),
  });
}

export const useApprove = (address: string) =>
  useAct(address, (body: SchemaApproveIn) =>
    data(api.POST('/api/v1/public/quotes/{address}/approve', { params: at(address), body })),
  );

export const useRefuse = (address: string) =>
  useAct(address, (body: SchemaRefuseIn) =>
    data(api.POST('/api/v1/public/quotes/{address}/refuse', { params: at(address), body })),
  );

export const useAsk = (address: string) =>
  useAct(address, (body: SchemaAskIn) =>
    data(api.POST('/api/v1/public/quotes/{address}/ask', { params: at(address), body })),
  );
