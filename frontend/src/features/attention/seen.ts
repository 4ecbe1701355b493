// What one has been told already: kept in the browser, for each person apart.

import { useEffect, useState } from 'react';
import type { Matter } from './queries';

const PREFIX = 'iron-relay.seen.';
const MOST = 500;

/** What this person was told in this browser; null when it never told them anything. */
function seenBy(who: string): ReadonlySet<string> | null {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(PREFIX + who) ?? 'null');
    return Array.isArray(found) ? new Set(found.map(String)) : null;
  } catch {
    return null;
  }
}

function keepSeen(who: string, keys: ReadonlySet<string>) {
  try {
    localStorage.setItem(PREFIX + who, JSON.stringify([...keys].slice(-MOST)));
  } catch {
    // Told once more, then.
  }
}

/**
 * What is new, and how to say that it was seen.
 *
 * What already stood there when somebody first signs in is only counted in the bar: a line is for what comes later.
 */
export function useNews(who: string, matters: Matter[] | undefined): [Matter[], () => void] {
  const [seen, setSeen] = useState(() => seenBy(who));
  if (seen === null && matters) setSeen(keysOf(matters));
  useEffect(() => {
    if (seen) keepSeen(who, seen);
  }, [who, seen]);
  const news = seen && matters ? matters.filter((row) => !seen.has(row.key)) : [];
  return [news, () => setSeen(new Set([...(seen ?? []), ...keysOf(news)]))];
}

const keysOf = (matters: Matter[]) => new Set(matters.map((row) => row.key));
