import { useState, type ReactNode } from 'react';
import { Suggest } from '@/design/Suggest';
import { scan, useParts } from './queries';

interface Props {
  label: string;
  /** Key of the part that is chosen; empty: none yet. */
  value: string;
  onChoose: (code: string) => void;
  error?: string | undefined;
  autoFocus?: boolean;
  /** Parts that are not offered. */
  but?: readonly string[];
}

const MOST = 8;

/** A part, found by typing its name or by scanning its code. */
export function PartChoice({ label, value, onChoose, error, autoFocus, but = [] }: Props) {
  const parts = useParts();
  const [typed, setTyped] = useState<string | null>(null);
  const chosen = parts.data?.find((row) => row.code === value);
  const words = (typed ?? '').trim().toLowerCase();
  const rows = (parts.data ?? []).filter(
    (row) => words && !row.retired && !but.includes(row.code) && holds(row.name, words),
  );
  const choose = (code: string) => {
    onChoose(code);
    setTyped(null);
  };
  // A scanner types the code and presses Enter.
  const onScan = () => {
    if (!words) return;
    void scan(words).then((found) => found[0] && choose(found[0].code));
  };
  let note: ReactNode = null;
  if (error) note = <p className="mt-0.5 text-xs text-bad">{error}</p>;
  return (
    <Suggest
      label={label}
      listLabel="Parts"
      value={typed ?? chosen?.name ?? ''}
      rows={typed === null ? [] : rows.slice(0, MOST)}
      keyOf={(row) => row.code}
      show={(row) => row.name}
      onType={setTyped}
      onChoose={(row) => choose(row.code)}
      onEnterWithout={onScan}
      placeholder="name, or scan its code"
      autoFocus={autoFocus ?? false}
      note={note}
    />
  );
}

const holds = (name: string, words: string) =>
  words.split(/\s+/).every((word) => name.toLowerCase().includes(word));
