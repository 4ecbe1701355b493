// What somebody typed in intake and did not send yet. It is kept in the browser as it is typed, for each person apart, so
// that neither a reload nor another page nor a crash loses it; it goes when it is sent, or thrown away.

import { createContext, useContext, useEffect, useState, useSyncExternalStore } from 'react';
import { serverNow } from '@/shared/clock';

export interface Draft {
  key: string;
  /** When it was last changed. */
  at: number;
  /** What it is about, in a few words. */
  title: string;
  parts: Record<string, unknown>;
}
type Drafts = Record<string, Draft>;

const PREFIX = 'iron-relay.intake.';
const CALL = 'iron-relay.call';
const watchers = new Set<() => void>();

const nameOf = (who: string) => `${PREFIX}${who}`;

function readAll(who: string): Drafts {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(nameOf(who)) ?? '{}');
    return typeof found === 'object' && found !== null ? (found as Drafts) : {};
  } catch {
    return {};
  }
}

function writeAll(who: string, drafts: Drafts) {
  try {
    localStorage.setItem(nameOf(who), JSON.stringify(drafts));
  } catch {
    // Full or forbidden: what is on the screen is still there.
  }
  watchers.forEach((tell) => tell());
}

/** The call this tab is in: found again after a reload; after a crash it is among the unfinished ones. */
export function currentCall(): string {
  const known = sessionStorage.getItem(CALL);
  return known ?? beginCall();
}

export function beginCall(key = `call ${crypto.randomUUID()}`): string {
  sessionStorage.setItem(CALL, key);
  return key;
}

export const keyOf = (request: number | null, customer: number | null) =>
  request !== null ? `request ${request}` : customer !== null ? `customer ${customer}` : currentCall();

export function dropDraft(who: string, key: string): Draft | undefined {
  const { [key]: gone, ...rest } = readAll(who);
  if (gone) writeAll(who, rest);
  return gone;
}

export function putBack(who: string, draft: Draft) {
  writeAll(who, { ...readAll(who), [draft.key]: draft });
}

/** Everything one has begun and not finished, the newest first. */
export function useDrafts(who: string): Draft[] {
  const text = useSyncExternalStore(subscribe, () => localStorage.getItem(nameOf(who)) ?? '{}');
  void text;
  return Object.values(readAll(who)).sort((one, two) => two.at - one.at);
}

function subscribe(tell: () => void) {
  watchers.add(tell);
  window.addEventListener('storage', tell);
  return () => {
    watchers.delete(tell);
    window.removeEventListener('storage', tell);
  };
}

/** Which draft the fields below belong to; `title` is what it is about. */
export const DraftOf = createContext<{ who: string; key: string } | null>(null);

/** State that is kept with the draft: what differs from its beginning is stored, what does not is not. */
export function useDraft<Value>(part: string, initial: Value | (() => Value)) {
  const draft = useContext(DraftOf);
  const [first] = useState(initial);
  const [value, setValue] = useState<Value>(() => {
    const stored = draft && readAll(draft.who)[draft.key]?.parts[part];
    return stored === undefined || stored === null ? first : (stored as Value);
  });
  useKept(part, value, first);
  return [value, setValue] as const;
}

/** What a draft holds of a part, for whoever keeps its state elsewhere. */
export function useStored<Value>(part: string, initial: Value): Value {
  const draft = useContext(DraftOf);
  const [found] = useState(() => draft && readAll(draft.who)[draft.key]?.parts[part]);
  return (found as Value | null | undefined) ?? initial;
}

/** Keeps a part as it changes. */
export function useKept(part: string, value: unknown, initial: unknown) {
  const draft = useContext(DraftOf);
  const text = JSON.stringify(value);
  const start = JSON.stringify(initial);
  useEffect(() => {
    if (draft)
      keepPart(draft.who, draft.key, part, text === start ? undefined : (JSON.parse(text) as unknown));
  }, [draft, part, text, start]);
}

function keepPart(who: string, key: string, part: string, value: unknown) {
  const all = readAll(who);
  const before = all[key];
  if (JSON.stringify(before?.parts[part]) === JSON.stringify(value)) return;
  const parts = { ...before?.parts };
  if (value === undefined) delete parts[part];
  else parts[part] = value;
  const rest = { ...all };
  delete rest[key];
  // The title alone is nothing that somebody typed.
  const empty = Object.keys(parts).every((name) => name === 'title');
  writeAll(who, empty ? rest : { ...rest, [key]: { key, at: serverNow(), title: titleOf(parts), parts } });
}

function titleOf(parts: Record<string, unknown>): string {
  const need = parts.need as { whatIsWrong?: string } | undefined;
  const typed = (parts.customer as { name?: string } | undefined)?.name;
  const words = [parts.title ?? typed, need?.whatIsWrong].filter(Boolean).join(': ');
  return words.length > 90 ? `${words.slice(0, 89)}…` : words || 'a call';
}
