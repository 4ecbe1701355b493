import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { auth } from '@/api/auth';
import { makePasskey } from '../passkeys';

/** A session as the server lists it; times are epoch seconds. */
export interface OwnSession {
  id: number;
  user_agent: string;
  ip: string;
  created_at: number;
  is_current: boolean;
}

export interface Factor {
  type: 'totp' | 'recovery_codes' | 'webauthn';
  /** Of a passkey: its key and its name. */
  id?: number;
  name?: string;
  created_at: number;
  last_used_at: number | null;
  unused_code_count?: number;
}

const FACTORS = ['own', 'factors'] as const;
const SESSIONS = ['own', 'sessions'] as const;

export const useOwnSessions = () =>
  useQuery({
    queryKey: SESSIONS,
    queryFn: async () => (await auth<OwnSession[]>('GET', '/auth/sessions')).data,
  });

export function useEndSessions() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (ids: number[]) => auth('DELETE', '/auth/sessions', { sessions: ids }),
    onSettled: () => client.invalidateQueries({ queryKey: SESSIONS }),
  });
}

export const useFactors = () =>
  useQuery({
    queryKey: FACTORS,
    queryFn: async () => (await auth<Factor[]>('GET', '/account/authenticators')).data,
  });

/** The steps by which a second factor comes and goes. Each asks for the password first when that was long ago. */
export function useSetFactor() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: FACTORS });
  const begin = useMutation({
    mutationFn: async () =>
      (await auth<unknown, { secret: string; totp_url: string }>('GET', '/account/authenticators/totp')).meta,
  });
  const confirm = useMutation({
    mutationFn: (code: string) => auth('POST', '/account/authenticators/totp', { code }),
    onSuccess,
  });
  const remove = useMutation({
    mutationFn: () => auth('DELETE', '/account/authenticators/totp'),
    onSuccess,
  });
  const codes = useMutation({
    mutationFn: async () =>
      (await auth<{ unused_codes?: string[] }>('POST', '/account/authenticators/recovery-codes', {})).data
        .unused_codes ?? [],
    onSuccess,
  });
  return { begin, confirm, remove, codes };
}

/** Passkeys made and removed; the password is asked for first. */
export function useSetPasskey() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: FACTORS });
  const make = useMutation({ mutationFn: makePasskey, onSuccess });
  const remove = useMutation({
    mutationFn: (id: number) => auth('DELETE', '/account/authenticators/webauthn', { authenticators: [id] }),
    onSuccess,
  });
  return { make, remove };
}

/** The password once more, before something that must not be done by whoever finds the screen open. */
export const useGivePassword = () =>
  useMutation({ mutationFn: (password: string) => auth('POST', '/auth/reauthenticate', { password }) });

export const useChangePassword = () =>
  useMutation({
    mutationFn: (body: { current_password: string; new_password: string }) =>
      auth('POST', '/account/password/change', body),
  });
