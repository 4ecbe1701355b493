import { useEffect, useState } from 'react';

type Theme = 'light' | 'dark';
const KEY = 'relay-theme';

function initial(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === 'light' || kept === 'dark') return kept;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

/** Set before the first paint, so that a night desk is never flashed. */
export function applyTheme(theme: Theme = initial()) {
  document.documentElement.dataset.theme = theme;
}

export function useTheme(): [Theme, (theme: Theme) => void] {
  const [theme, setTheme] = useState<Theme>(initial);
  useEffect(() => applyTheme(theme), [theme]);
  return [
    theme,
    (next) => {
      localStorage.setItem(KEY, next);
      setTheme(next);
    },
  ];
}
