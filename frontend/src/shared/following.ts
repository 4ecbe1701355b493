import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { onChange } from '@/shared/live';

/** Look again at what a key names whenever somebody changes something of these topics. */
export function useFollowing(key: readonly unknown[], topics: string[]) {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (topics.includes(change.topic) || change.topic === 'resync')
          void client.invalidateQueries({ queryKey: key });
      }),
    // The key and the topics of a hook never change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [client],
  );
}
