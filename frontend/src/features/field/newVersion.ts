import { useEffect, useState } from 'react';
import { Workbox } from 'workbox-window';

const LOOK_EVERY = 60 * 60_000;

/**
 * Whether something may be typed that a new page would not know of. Fields cannot be asked what of their text is new, so
 * any text counts: a new version has time until the next page.
 */
export const typing = () =>
  [...document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>('textarea, input')].some(
    ({ type, value }) => ['textarea', 'text', 'date'].includes(type) && value !== '',
  );

/**
 * Keeps these pages on the phone, so that they open without a signal.
 *
 * A new version of them waits while something is typed or not sent, and otherwise takes over when nobody looks, or
 * when somebody says so.
 */
export function useNewVersion(unsent: boolean): { waits: boolean; take: () => void } {
  const [keeper, setKeeper] = useState<Workbox | null>(null);
  const [waits, setWaits] = useState(false);
  useEffect(() => {
    // Only over https (or on this machine itself) does a browser keep pages; and the bundler's own server has none to keep.
    if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return;
    const workbox = new Workbox('/sw.js', { scope: '/field' });
    workbox.addEventListener('waiting', () => setWaits(true));
    workbox.addEventListener('controlling', ({ isUpdate }) => isUpdate && window.location.reload());
    const look = () => void workbox.update().catch(() => undefined);
    void workbox
      .register()
      .then(() => setKeeper(workbox))
      .catch(() => undefined);
    const timer = window.setInterval(look, LOOK_EVERY);
    return () => window.clearInterval(timer);
  }, []);
  const take = () => keeper?.messageSkipWaiting();
  useEffect(() => {
    if (!waits || unsent) return;
    const unseen = () => document.visibilityState === 'hidden' && !typing() && keeper?.messageSkipWaiting();
    document.addEventListener('visibilitychange', unseen);
    return () => document.removeEventListener('visibilitychange', unseen);
  }, [waits, unsent, keeper]);
  return { waits, take };
}
