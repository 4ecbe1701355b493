// Whoever has left the desk is signed out, where the company wants that.

import { useEffect } from 'react';
import { api } from '@/api/client';

/** The server is told this often that somebody is there. */
const TELL_MS = 60_000;
const SIGNS = ['pointerdown', 'pointermove', 'keydown', 'wheel'] as const;
/** Shared by all windows of the browser: who works in one of them is there. */
const KEY = 'iron-relay.here';

/** `minutes` 0: never. */
export function useIdle(minutes: number, leave: () => void) {
  useEffect(() => {
    if (!minutes) return;
    let told = 0;
    const seen = () => Number(localStorage.getItem(KEY) ?? 0);
    const here = () => {
      const now = Date.now();
      localStorage.setItem(KEY, String(now));
      if (now - told < TELL_MS) return;
      told = now;
      void api.POST('/api/v1/session/here').catch(() => undefined);
    };
    here();
    for (const sign of SIGNS) window.addEventListener(sign, here, { passive: true });
    const timer = setInterval(() => {
      if (Date.now() - seen() > minutes * 60_000) leave();
    }, 5_000);
    return () => {
      for (const sign of SIGNS) window.removeEventListener(sign, here);
      clearInterval(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- leaving is another function each time, and means the same
  }, [minutes]);
}
