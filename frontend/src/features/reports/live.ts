import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { onChange } from '@/shared/live';
import { reportsKey } from './queries';

/** Looks again whenever something happened at a visit. */
export function useLiveReports() {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange(({ topic }) => {
        if (topic === 'visit' || topic === 'resync') void client.invalidateQueries({ queryKey: reportsKey });
      }),
    [client],
  );
}
