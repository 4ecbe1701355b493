import { useMutation } from '@tanstack/react-query';
import type { SchemaStep } from '@/api/types';
import { useSession } from '@/features/people';
import type { OwnVisit } from './sync/ahead';
import type { Where } from './sync/deeds';
import { phoneOf } from './usePhone';

/** Writes a step down on this phone, based on the visit as it is shown. It is done when it is written; it is sent later. */
export function useFieldStep(visit: OwnVisit) {
  const account = useSession().account!.id;
  return useMutation({
    networkMode: 'always',
    mutationFn: async ({ step, note }: { step: SchemaStep; note: string }) => {
      // Whoever presses before the store is open waits for it, and for nothing else.
      const phone = await phoneOf(account);
      return phone.journal.write({
        kind: 'step',
        visitId: visit.id,
        body: { step, note },
        basedOn: { state: visit.state, start: visit.start },
        where: await whereAmI(),
      });
    },
  });
}

/** Where the phone is, if it says so within a second; a step never waits longer for it. */
function whereAmI(): Promise<Where | null> {
  if (!('geolocation' in navigator)) return Promise.resolve(null);
  const asked = new Promise<Where | null>((resolve) => {
    navigator.geolocation.getCurrentPosition(
      ({ coords }) =>
        resolve({ lon: coords.longitude, lat: coords.latitude, accuracyMetres: coords.accuracy }),
      () => resolve(null),
      { timeout: 1000, maximumAge: 60_000 },
    );
  });
  const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), 1000));
  return Promise.race([asked, late]);
}
