import { useQuery } from '@tanstack/react-query';
import { Problem } from '@/api/client';
import { useSession } from '@/features/people';
import { ownVisitQuery, useLiveField } from './queries';
import { project } from './sync/ahead';
import { inWords } from './trouble';
import { useKept, usePhone } from './usePhone';

/** A visit as it is here: what the server said of it last, and what was done on this phone since. */
export function useVisitHere(visitId: number) {
  useLiveField();
  const seen = useQuery(ownVisitQuery(visitId));
  const phone = usePhone();
  const kept = useKept(phone.data);
  const { account } = useSession();
  const here = seen.data ? project(seen.data, kept, account?.name ?? '') : undefined;
  const gone = seen.data && seen.error instanceof Problem && seen.error.status === 404 ? seen.error : null;
  return {
    ...here,
    kept,
    phone: phone.data,
    /** Why nothing can be kept on this phone, in words. */
    phoneError: phone.isError ? inWords(phone.error) : null,
    /** Why it is not this technician's any more, though it was. */
    gone,
    // Without a signal, or before it is signed in again, what is here is shown: the frame says why.
    error: gone ? null : seen.error,
  };
}
