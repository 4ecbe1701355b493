import { useMutation, useQueryClient } from '@tanstack/react-query';
import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf, urlOf } from '@/api/client';
import type { SchemaBroughtOut, SchemaSetUpRowOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FileChoice } from '@/design/FileChoice';
import { Notice } from '@/design/Notice';
import { KINDS, refusedFirst, type SetUpKind } from './kinds';

/** So many rows are shown; those that are refused first. */
const SHOWN = 300;

/** Depots, skills, vehicles, people and shifts from files, and out again. */
export function SetUpFilesPage() {
  const [kind, setKind] = useState<SetUpKind>('depots');
  return (
    <div className="max-w-5xl space-y-3 p-4 text-sm">
      <header>
        <h1 className="text-lg font-semibold">People and prices from files</h1>
        <p className="text-ink-soft">
          Bring in depots and skills first, then vehicles, people and their shifts. Whoever is there already,
          by name, is changed; columns that are not in the file stay as they are.
        </p>
      </header>
      <div role="group" aria-label="What the file is about" className="flex gap-1">
        {KINDS.map((row) => (
          <Button key={row.kind} aria-pressed={row.kind === kind} onClick={() => setKind(row.kind)}>
            {row.words}
          </Button>
        ))}
      </div>
      <OneKind key={kind} kind={kind} />
    </div>
  );
}

function useBringIn(kind: SetUpKind) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ file, sure }: { file: File; sure: boolean }) => {
      const form = new FormData();
      form.append('file', file);
      form.append('sure', String(sure));
      return data(
        api.POST('/api/v1/set-up/files/{kind}', {
          params: { path: { kind } },
          body: { file: '', sure },
          bodySerializer: () => form,
        }),
      );
    },
    onSuccess: (found) => {
      if (!found.sure) return;
      const done = found.counts.new! + found.counts.change!;
      toast.success(done === 1 ? '1 row is brought in' : `${done} rows are brought in`);
      void client.invalidateQueries();
    },
  });
}

function OneKind({ kind }: { kind: SetUpKind }) {
  const bring = useBringIn(kind);
  const [file, setFile] = useState<File | null>(null);
  const about = KINDS.find((row) => row.kind === kind)!;
  const look = (chosen: File) => {
    setFile(chosen);
    bring.mutate({ file: chosen, sure: false });
  };
  return (
    <section aria-label={about.words} className="space-y-2">
      <p className="text-ink-soft">
        CSV (commas, semicolons or tabs) with a first row of headings:{' '}
        <span className="figures">{about.columns}</span>. {about.hint}
      </p>
      <div className="flex items-center gap-3">
        <FileChoice
          className="inline-flex min-h-9 items-center gap-2 rounded-sm border border-ink bg-sheet px-3 font-semibold hover:bg-wash"
          onFile={look}
        >
          <FileUp size={16} aria-hidden />
          {bring.isPending && !bring.variables.sure ? 'Looking…' : `Choose a file of ${kind}`}
        </FileChoice>
        <a className="underline" href={urlOf('/api/v1/set-up/files/{kind}', { kind })} download>
          {kind}.csv of what there is, or with an example
        </a>
      </div>
      {bring.isError && <Notice tone="bad">{sentenceOf(bring.error)}</Notice>}
      {bring.data && file && (
        <Outcome
          found={bring.data}
          busy={bring.isPending}
          onBring={() => bring.mutate({ file, sure: true })}
        />
      )}
    </section>
  );
}

interface OutcomeProps {
  found: SchemaBroughtOut;
  busy: boolean;
  onBring: () => void;
}

function Outcome({ found, busy, onBring }: OutcomeProps) {
  const { counts, sure } = found;
  const done = counts.new! + counts.change!;
  const rows = refusedFirst(found.rows);
  return (
    <div className="space-y-2">
      <p aria-live="polite" className="font-semibold">
        {sure ? 'Done: ' : 'Would be: '}
        {counts.new} new, {counts.change} changed, {counts.same} the same, {counts.refused} refused.
      </p>
      {found.left_out.length > 0 && (
        <Notice tone="warn">No column of ours: {found.left_out.join(', ')}. It is left out.</Notice>
      )}
      {!sure && done > 0 && (
        <Button rank="main" disabled={busy} onClick={onBring}>
          {busy ? 'Bringing in…' : `Bring in ${done === 1 ? '1 row' : `${done} rows`}`}
        </Button>
      )}
      <Rows rows={rows.slice(0, SHOWN)} />
      {rows.length > SHOWN && (
        <p className="text-ink-soft">{rows.length - SHOWN} more rows without a problem are not shown.</p>
      )}
    </div>
  );
}

const Rows = ({ rows }: { rows: SchemaSetUpRowOut[] }) => (
  <table className="w-full text-left" aria-label="Rows of the file">
    <thead className="text-xs text-ink-soft">
      <tr>
        <th className="w-14 font-semibold">Line</th>
        <th className="w-56 font-semibold">Name</th>
        <th className="w-24 font-semibold">Becomes</th>
        <th className="font-semibold">Why not</th>
      </tr>
    </thead>
    <tbody>
      {rows.map((row) => (
        <tr key={row.line} className="border-t border-hairline align-top">
          <td className="figures text-ink-soft">{row.line}</td>
          <td>{row.what}</td>
          <td className={row.becomes === 'refused' ? 'font-semibold text-bad' : ''}>{row.becomes}</td>
          <td className="text-bad">{row.problems.join('; ')}</td>
        </tr>
      ))}
    </tbody>
  </table>
);
