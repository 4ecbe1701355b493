import { useEffect, useRef } from 'react';

export interface Shortcuts {
  onDay: (by: number) => void;
  onUndo: () => void;
  onRedo: () => void;
  onLegend: () => void;
  onGap: (by: number) => void;
  onNext: () => void;
  onOpenings: () => void;
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
      const target = event.target as HTMLElement;
      const held = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      const inDialog = target.closest?.('[role="dialog"]');
      if (event.key === 'Escape' && !inDialog) {
        latest.current.onClose();
        return;
      }
      if (inDialog || target.closest?.('input, textarea, select')) return;
      const deed = held ? withControl(key, event.shiftKey, latest.current) : plain(event, latest.current);
      if (!deed) return;
      event.preventDefault();
      deed();
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, []);
}

function withControl(key: string, shift: boolean, { onUndo, onRedo }: Shortcuts): (() => void) | null {
  if (key === 'z') return shift ? onRedo : onUndo;
  return key === 'y' ? onRedo : null;
}

function plain(
  event: KeyboardEvent,
  { onDay, onLegend, onGap, onNext, onOpenings }: Shortcuts,
): (() => void) | null {
  if (event.altKey) return null;
  switch (event.key) {
    case 't':
      return () => onDay(0);
    case '[':
      return () => onDay(-1);
    case ']':
      return () => onDay(1);
    case 'g':
      return () => onGap(1);
    case 'G':
      return () => onGap(-1);
    case 'n':
      return onNext;
    case 'o':
      return onOpenings;
    case '?':
      return onLegend;
    case '/':
      return () => document.getElementById('backlog-search')?.focus();
    default:
      return null;
  }
}
