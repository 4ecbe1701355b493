import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaFieldStepIn } from '@/api/types';
import { fieldKey, ownVisitQuery } from './queries';

export function useFieldStep(visitId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (body: Omit<SchemaFieldStepIn, 'where'>) =>
      data(
        api.POST('/api/v1/field/visits/{visit_id}/step', {
          params: { path: { visit_id: visitId } },
          body: { ...body, where: await whereAmI() },
        }),
      ),
    onSuccess: (visit) => {
      if (visit.state !== 'open') client.setQueryData(ownVisitQuery(visitId).queryKey, visit);
    },
    onSettled: () => client.invalidateQueries({ queryKey: fieldKey }),
  });
}

/** Where the phone is, if it says so within a second; a step never waits longer for it. */
function whereAmI(): Promise<{ lon: number; lat: number } | null> {
  if (!('geolocation' in navigator)) return Promise.resolve(null);
  const asked = new Promise<{ lon: number; lat: number } | null>((resolve) => {
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => resolve({ lon: coords.longitude, lat: coords.latitude }),
      () => resolve(null),
      { timeout: 1000, maximumAge: 60_000 },
    );
  });
  const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), 1000));
  return Promise.race([asked, late]);
}
