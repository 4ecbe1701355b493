import { useState } from 'react';
import { Button } from '@/design/Button';
import { useCertificates } from './queries';

const BOX = 'rounded-sm border border-hairline bg-sheet px-1.5 py-1.5';
const OTHER = 'another';

interface Props {
  names: string[];
  onChange: (names: string[]) => void;
}

/** The certificates that whoever goes must hold on that day. */
export function CertificatesField({ names, onChange }: Props) {
  const known = useCertificates();
  const [typed, setTyped] = useState<string | null>(null);
  const holders = new Map((known.data ?? []).map((row) => [row.name, row.holders]));
  const add = (name: string) => {
    setTyped(null);
    if (name.trim() && !names.includes(name.trim())) onChange([...names, name.trim()]);
  };
  return (
    <fieldset>
      <legend className="mb-0.5 text-xs font-semibold text-ink-soft">Certificates, valid on the day</legend>
      {names.map((name) => (
        <div key={name} className="mb-1 flex items-center gap-1 text-sm">
          <span className="flex-1">{name}</span>
          {known.data && <Holders count={holders.get(name) ?? 0} />}
          <Button
            rank="quiet"
            aria-label={`Remove ${name}`}
            onClick={() => onChange(names.filter((other) => other !== name))}
          >
            ✕
          </Button>
        </div>
      ))}
      {typed === null ? (
        <select
          aria-label="Add a certificate"
          className={`${BOX} w-full`}
          value=""
          onChange={(event) => (event.target.value === OTHER ? setTyped('') : add(event.target.value))}
        >
          <option value="">{names.length ? 'add a certificate…' : 'none needed; add a certificate…'}</option>
          {(known.data ?? [])
            .filter((row) => !names.includes(row.name))
            .map((row) => (
              <option key={row.name}>{row.name}</option>
            ))}
          <option value={OTHER}>another one…</option>
        </select>
      ) : (
        <div className="flex gap-1">
          <input
            autoFocus
            aria-label="Name of the certificate"
            maxLength={80}
            className={`${BOX} flex-1`}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return;
              event.preventDefault();
              add(typed);
            }}
          />
          <Button onClick={() => add(typed)}>Add</Button>
          <Button rank="quiet" onClick={() => setTyped(null)}>
            Cancel
          </Button>
        </div>
      )}
    </fieldset>
  );
}

function Holders({ count }: { count: number }) {
  if (count === 0) return <span className="text-xs text-bad">nobody holds a valid one</span>;
  return <span className="figures text-xs text-ink-soft">held by {count}</span>;
}
