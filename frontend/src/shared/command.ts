// Ctrl K, and the button at the top, open the command field of the page one is on; else the one of every page.

import { useEffect, useRef } from 'react';

const EVENT = 'relay:command';

/** Open the command field. */
export const openCommandField = () => window.dispatchEvent(new CustomEvent(EVENT, { cancelable: true }));

/** Answer when the command field is asked for. The page's own answer comes before that of the frame around it. */
export function useCommandField(open: () => void, { last = false } = {}) {
  const latest = useRef(open);
  useEffect(() => {
    latest.current = open;
  });
  useEffect(() => {
    const onAsked = (event: Event) => {
      if (event.defaultPrevented) return;
      event.preventDefault();
      latest.current();
    };
    // Those that capture are asked first, in whatever order the effects ran.
    const options = { capture: !last };
    window.addEventListener(EVENT, onAsked, options);
    return () => window.removeEventListener(EVENT, onAsked, options);
  }, [last]);
}

/** Ctrl K, also while somebody is typing. */
export function useCommandKey() {
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.defaultPrevented || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k')
        return;
      event.preventDefault();
      openCommandField();
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, []);
}
