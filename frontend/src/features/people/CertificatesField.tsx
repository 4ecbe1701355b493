import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, data, sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { certificatesKey, useCertificates } from './queries';

const BOX = 'rounded-sm border border-hairline bg-sheet px-1.5 py-1.5';
const OTHER = '+';

interface Props {
  codes: string[];
  onChange: (codes: string[]) => void;
}

/** The certificates that whoever goes must hold on that day. */
export function CertificatesField({ codes, onChange }: Props) {
  const known = useCertificates();
  const [naming, setNaming] = useState(false);
  const kinds = new Map((known.data ?? []).map((row) => [row.code, row]));
  const nameOf = (code: string) => kinds.get(code)?.name ?? code;
  const add = (code: string) => {
    setNaming(false);
    if (code && !codes.includes(code)) onChange([...codes, code]);
  };
  return (
    <fieldset>
      <legend className="mb-0.5 text-xs font-semibold text-ink-soft">Certificates, valid on the day</legend>
      {codes.map((code) => (
        <div key={code} className="mb-1 flex items-center gap-1 text-sm">
          <span className="flex-1">{nameOf(code)}</span>
          {known.data && <Holders count={kinds.get(code)?.holders ?? 0} />}
          <Button
            rank="quiet"
            aria-label={`Remove ${nameOf(code)}`}
            onClick={() => onChange(codes.filter((other) => other !== code))}
          >
            ✕
          </Button>
        </div>
      ))}
      {naming ? (
        <NewKind onMade={add} onLeave={() => setNaming(false)} />
      ) : (
        <select
          aria-label="Add a certificate"
          className={`${BOX} w-full`}
          value=""
          onChange={(event) => (event.target.value === OTHER ? setNaming(true) : add(event.target.value))}
        >
          <option value="">{codes.length ? 'add a certificate…' : 'none needed; add a certificate…'}</option>
          {[...kinds.values()]
            .filter((row) => !row.retired && !codes.includes(row.code))
            .map((row) => (
              <option key={row.code} value={row.code}>
                {row.name}
              </option>
            ))}
          <option value={OTHER}>another one…</option>
        </select>
      )}
    </fieldset>
  );
}

function NewKind({ onMade, onLeave }: { onMade: (code: string) => void; onLeave: () => void }) {
  const client = useQueryClient();
  const [typed, setTyped] = useState('');
  const make = useMutation({
    mutationFn: (name: string) => data(api.POST('/api/v1/people/certificates', { body: { name } })),
    onSuccess: async (kind) => {
      await client.invalidateQueries({ queryKey: certificatesKey });
      onMade(kind.code);
    },
  });
  const add = () => typed.trim() && make.mutate(typed.trim());
  return (
    <>
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
            add();
          }}
        />
        <Button onClick={add} disabled={make.isPending}>
          Add
        </Button>
        <Button rank="quiet" onClick={onLeave}>
          Cancel
        </Button>
      </div>
      {make.isError && (
        <p role="alert" className="text-xs text-bad">
          {sentenceOf(make.error)}
        </p>
      )}
    </>
  );
}

function Holders({ count }: { count: number }) {
  if (count === 0) return <span className="text-xs text-bad">nobody holds a valid one</span>;
  return <span className="figures text-xs text-ink-soft">held by {count}</span>;
}
