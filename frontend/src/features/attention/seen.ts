// What one has been told already: kept in the browser, for each person apart.

const PREFIX = 'iron-relay.seen.';
const MOST = 500;

export function seenBy(who: string): ReadonlySet<string> {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(PREFIX + who) ?? '[]');
    return new Set(Array.isArray(found) ? found.map(String) : []);
  } catch {
    return new Set();
  }
}

export function keepSeen(who: string, keys: Iterable<string>): ReadonlySet<string> {
  const all = [...new Set([...seenBy(who), ...keys])].slice(-MOST);
  try {
    localStorage.setItem(PREFIX + who, JSON.stringify(all));
  } catch {
    // Told once more, then.
  }
  return new Set(all);
}
