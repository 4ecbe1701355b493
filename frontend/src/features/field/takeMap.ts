import { useEffect } from 'react';
import { api, data } from '@/api/client';

const LAYERS = ['land', 'roads', 'areas'] as const;
/** What the first page needs comes first. */
const LATER = 4_000;

/** Fetches the map of the region once while there is a signal: whoever keeps these pages keeps it, too. */
export function useMapTakenAlong() {
  useEffect(() => {
    const timer = window.setTimeout(() => void takeMap(), LATER);
    return () => window.clearTimeout(timer);
  }, []);
}

/** Whether these pages are kept on the phone; the first time that takes a while. */
async function kept(): Promise<boolean> {
  const { serviceWorker } = navigator;
  if (!serviceWorker || !import.meta.env.PROD) return false;
  if (!serviceWorker.controller)
    await new Promise((done) => serviceWorker.addEventListener('controllerchange', done, { once: true }));
  return true;
}

async function takeMap() {
  if (!(await kept())) return;
  for (const layer of LAYERS)
    // Without a signal it is fetched the next time.
    await data(
      api.GET('/api/v1/roads/map/{layer}', { params: { path: { layer } }, parseAs: 'blob' }) as Promise<{
        data?: unknown;
      }>,
    ).catch(() => undefined);
}
