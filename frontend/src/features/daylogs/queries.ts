import { queryOptions } from '@tanstack/react-query';
import { api, data } from '@/api/client';

/** Somebody's last days, the newest first. */
export const dayLogsQuery = (technicianId: number) =>
  queryOptions({
    queryKey: ['day logs', technicianId],
    queryFn: () =>
      data(
        api.GET('/api/v1/day-logs/of-technician/{technician_id}', {
          params: { path: { technician_id: technicianId } },
        }),
      ),
  });
