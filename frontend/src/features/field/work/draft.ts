import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useSession } from '@/features/people';
import { phoneOf, usePhone } from '../usePhone';

/** Where nothing can be kept, the page itself says so. */
const NOT_KEPT = () => undefined;

/**
 * Text that is kept on this phone with every keystroke, until it is written down.
 *
 * @param kept what was written down last
 */
export function useDraft(name: string, kept: string) {
  const account = useSession().account!.id;
  const client = useQueryClient();
  const phone = usePhone().data;
  const [typed, setTyped] = useState<string | null>(null);
  const found = useQuery({
    queryKey: ['draft', name],
    queryFn: () => phone!.drafts.find(name),
    enabled: phone !== undefined,
    networkMode: 'always',
    staleTime: Infinity,
    gcTime: 0,
  });
  const text = typed ?? found.data ?? kept;
  return {
    text,
    type: (next: string) => {
      setTyped(next);
      // Whoever types before the store is open is kept as soon as it is.
      void phoneOf(account)
        .then(({ drafts }) => drafts.keep(name, next))
        .catch(NOT_KEPT);
    },
    /** What was typed is written down: there is nothing to keep any more. */
    done: async () => {
      await phoneOf(account)
        .then(({ drafts }) => drafts.drop(name))
        .catch(NOT_KEPT);
      // Nor is what was found when the page opened: it would stand there again.
      client.setQueryData(['draft', name], null);
      setTyped(null);
    },
  };
}
