import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { auth } from '@/api/auth';
import { api, data, Problem } from '@/api/client';
import { forgetWho } from '@/features/people';
import type {
  SchemaAccountChangeIn,
  SchemaAccountRowOut,
  SchemaInviteIn,
  SchemaOwnRoleIn,
  SchemaOwnRoleOut,
} from '@/api/types';

const ACCOUNTS = ['accounts'] as const;
const ROLES = ['roles'] as const;

/** End the session here. */
export function useSignOut() {
  return useMutation({
    // Signed out, nobody is signed in any more: it says so with an error of its own.
    mutationFn: () =>
      auth('DELETE', '/auth/session').catch((error: unknown) => {
        if (error instanceof Problem && error.status === 0) throw error;
        return null;
      }),
    networkMode: 'always',
    // A fresh start: nothing of the last account stays in memory.
    onSuccess: () => {
      forgetWho();
      window.location.assign('/');
    },
  });
}

/** Back from helping somebody to one's own account. */
export function useBack() {
  return useMutation({
    mutationFn: () => data(api.POST('/api/v1/session/back')),
    onSettled: () => window.location.assign('/'),
  });
}

/** Everybody who may or might sign in. */
export const useAccounts = () =>
  useQuery({ queryKey: ACCOUNTS, queryFn: () => data(api.GET('/api/v1/accounts')) });

/** What each role may do, the company's own ones too, with the words for it. */
export const useRoles = () =>
  useQuery({ queryKey: ROLES, queryFn: () => data(api.GET('/api/v1/roles')), staleTime: 60_000 });

/** Everything that is done to a role of the company's own. */
export function useSetRole() {
  const client = useQueryClient();
  const onSuccess = () =>
    Promise.all([ROLES, ACCOUNTS].map((queryKey) => client.invalidateQueries({ queryKey: [...queryKey] })));
  const at = (row: SchemaOwnRoleOut) => ({ params: { path: { role_id: row.id } } });
  const make = useMutation({
    mutationFn: (body: SchemaOwnRoleIn) => data(api.POST('/api/v1/roles', { body })),
    onSuccess,
  });
  const change = useMutation({
    mutationFn: ({ row, body }: { row: SchemaOwnRoleOut; body: SchemaOwnRoleIn }) =>
      data(api.PUT('/api/v1/roles/{role_id}', { ...at(row), body: { ...body, version: row.version } })),
    onSuccess,
  });
  const remove = useMutation({
    mutationFn: (row: SchemaOwnRoleOut) => data(api.DELETE('/api/v1/roles/{role_id}', at(row))),
    onSuccess,
  });
  return { make, change, remove };
}

/** Everything that is done to an account. */
export function useSetAccount() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: ACCOUNTS });
  const at = (row: SchemaAccountRowOut) => ({ params: { path: { account_id: row.id } } });
  const invite = useMutation({
    mutationFn: (body: SchemaInviteIn) => data(api.POST('/api/v1/accounts', { body })),
    onSuccess,
  });
  const change = useMutation({
    mutationFn: ({ row, body }: { row: SchemaAccountRowOut; body: Omit<SchemaAccountChangeIn, 'version'> }) =>
      data(api.PUT('/api/v1/accounts/{account_id}', { ...at(row), body: { ...body, version: row.version } })),
    onSuccess,
  });
  const setActive = useMutation({
    mutationFn: ({ row, active }: { row: SchemaAccountRowOut; active: boolean }) =>
      data(
        api.POST('/api/v1/accounts/{account_id}/active', {
          ...at(row),
          body: { version: row.version, active },
        }),
      ),
    onSuccess,
  });
  const inviteAgain = useMutation({
    mutationFn: (row: SchemaAccountRowOut) =>
      data(api.POST('/api/v1/accounts/{account_id}/invitation', at(row))),
  });
  const removeFactor = useMutation({
    mutationFn: (row: SchemaAccountRowOut) =>
      data(api.DELETE('/api/v1/accounts/{account_id}/second-factor', at(row))),
    onSuccess,
  });
  const help = useMutation({
    mutationFn: ({ row, because }: { row: SchemaAccountRowOut; because: string }) =>
      data(api.POST('/api/v1/accounts/{account_id}/help', { ...at(row), body: { because } })),
    // As somebody else nothing of what was seen before stays in memory.
    onSuccess: () => window.location.assign('/'),
  });
  return { invite, change, setActive, inviteAgain, removeFactor, help };
}
