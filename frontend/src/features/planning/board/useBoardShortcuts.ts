import { useEffect, useRef } from 'react';

interface Shortcuts {
  onDay: (by: number) => void;
  onUndo: () => void;
  onKey: () => void;
  onClose: () => void;
}

/** The board's keys, unless somebody is typing. */
export function useBoardShortcuts(shortcuts: Shortcuts) {
  const latest = useRef(shortcuts);
  useEffect(() => {
    latest.current = shortcuts;
  });
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      const typing = (event.target as HTMLElement).closest?.('input, textarea, select, [role="dialog"]');
      if (event.key === 'Escape' && !(event.target as HTMLElement).closest?.('[role="dialog"]')) {
        latest.current.onClose();
        return;
      }
      if (typing) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
        event.preventDefault();
        latest.current.onUndo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const deed = plain(event.key, latest.current);
      if (!deed) return;
      event.preventDefault();
      deed();
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, []);
}

function plain(key: string, { onDay, onKey }: Shortcuts): (() => void) | null {
  switch (key) {
    case 't':
      return () => onDay(0);
    case '[':
      return () => onDay(-1);
    case ']':
      return () => onDay(1);
    case '?':
      return onKey;
    case '/':
      return () => document.getElementById('backlog-search')?.focus();
    default:
      return null;
  }
}
