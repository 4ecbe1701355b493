import { queryOptions, useSuspenseQuery } from '@tanstack/react-query';
import { api, data, setCsrfToken } from '@/api/client';
import type { SchemaAction, SchemaSessionOut } from '@/api/types';
import { setServerNow } from '@/shared/clock';
import { setStyle, setTimeZone, type Style } from '@/shared/time';

export interface Session extends SchemaSessionOut {
  company: { name: string; time_zone: string; style: Style } | null;
}

/** Who is signed in. Learns the server's clock and the company's time zone on the way. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async (): Promise<Session> => {
    const session = await data(api.GET('/api/v1/session'));
    setCsrfToken(session.csrf_token);
    setServerNow(session.now);
    const company = session.account ? await data(api.GET('/api/v1/company')) : null;
    if (company) {
      setTimeZone(company.time_zone);
      setStyle(company.style);
    }
    return { ...session, company };
  },
  staleTime: Infinity,
});

export function useSession(): Session {
  return useSuspenseQuery(sessionQuery).data;
}

export function may(session: Session, action: SchemaAction): boolean {
  return session.may.includes(action);
}
