import { queryOptions, useSuspenseQuery } from '@tanstack/react-query';
import { api, data, Problem, setCsrfToken } from '@/api/client';
import type { SchemaAction, SchemaSessionOut } from '@/api/types';
import { setServerNow } from '@/shared/clock';
import { setStyle, setTimeZone, type Style } from '@/shared/time';
import { keepWho, keptWho } from './kept';

export interface Session extends SchemaSessionOut {
  company: { name: string; time_zone: string; style: Style } | null;
  /**
   * On the phone only: who works on it is known from here. "offline": the server could not be asked; "ended": it does
   * not know who this is any more, and somebody has to sign in before anything is sent.
   */
  kept?: 'offline' | 'ended';
}

// Where a signal is there but nothing comes through it, a page that opens waits no longer than this for what the phone
// knows itself. Whoever asks again, with a page in sight, waits for what the server says.
const PATIENCE = 700;
let opened = false;

async function ask(): Promise<Session> {
  const session = await data(api.GET('/api/v1/session'));
  setCsrfToken(session.csrf_token);
  setServerNow(session.now);
  const company = session.account ? await data(api.GET('/api/v1/company')) : null;
  return { ...session, company };
}

/** Below /field one works also when nobody answers: as who signed in on this phone last. */
const onPhone = () => /^\/field(\/|$)/.test(globalThis.location.pathname);

async function askOrKnow(): Promise<Session> {
  const patient = opened;
  opened = true;
  const kept = onPhone() ? keptWho() : null;
  if (!kept) return keepWho(await ask());
  try {
    const asked = ask();
    // Answered too late, it is still good for whoever looks next.
    asked.then(keepWho).catch(() => undefined);
    const answer = await (patient ? asked : within(PATIENCE, asked));
    return answer.account ? answer : { ...kept, kept: 'ended' };
  } catch (error) {
    if (error instanceof Problem && error.status > 0 && error.status < 500) throw error;
    return { ...kept, kept: 'offline' };
  }
}

function within<T>(milliseconds: number, answer: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    setTimeout(() => reject(new Problem(0, 'slow', 'The server does not answer.')), milliseconds);
    answer.then(resolve, reject);
  });
}

/** Who is signed in. Learns the server's clock and the company's time zone on the way. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async (): Promise<Session> => {
    const session = await askOrKnow();
    if (session.company) {
      setTimeZone(session.company.time_zone);
      setStyle(session.company.style);
    }
    return session;
  },
  staleTime: Infinity,
  networkMode: 'always',
});

export function useSession(): Session {
  return useSuspenseQuery(sessionQuery).data;
}

export function may(session: Session, action: SchemaAction): boolean {
  return session.may.includes(action);
}
