// Ctrl K, and the button at the top, open the command field of the page one is on; else the one of every page.

import { useEffect, useRef } from 'react';

// Two of them, not listeners of one event: a browser asks listeners of the window in the order in which they came.
let ofPage: (() => void) | null = null;
let ofFrame: (() => void) | null = null;

/** Open the command field. */
export const openCommandField = () => (ofPage ?? ofFrame)?.();

/** Answer when the command field is asked for. The page's own answer comes before that of the frame around it. */
export function useCommandField(open: () => void, { frame = false } = {}) {
  const latest = useRef(open);
  useEffect(() => {
    latest.current = open;
  });
  useEffect(() => {
    const own = () => latest.current();
    if (frame) ofFrame = own;
    else ofPage = own;
    return () => {
      if (ofFrame === own) ofFrame = null;
      if (ofPage === own) ofPage = null;
    };
  }, [frame]);
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
