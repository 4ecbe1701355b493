import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { api, data, sentenceOf, urlOf } from '@/api/client';
import type { SchemaArchiveOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FileChoice } from '@/design/FileChoice';
import { Notice } from '@/design/Notice';
import { sendInParts } from '@/shared/parts';
import { stamp } from '@/shared/time';
import { sizeInWords, stateInWords } from './words';

const KEY = ['archives'] as const;

function useArchives() {
  return useQuery({
    queryKey: KEY,
    queryFn: () => data(api.GET('/api/v1/set-up/archives')),
    // While one is under way, it is looked at again.
    refetchInterval: ({ state }) =>
      state.data?.archives.some((row) => row.state === 'waiting' || row.state === 'running') ? 2000 : false,
  });
}

/** Everything in one archive, and an empty installation filled from one. */
export function ArchivePage() {
  const archives = useArchives();
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: () => data(api.POST('/api/v1/set-up/archives')),
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
  const busy = archives.data?.archives.some((row) => row.state === 'waiting' || row.state === 'running');
  return (
    <div className="max-w-3xl space-y-6 p-4 text-sm">
      <section aria-label="Take everything out" className="space-y-2">
        <h1 className="text-lg font-semibold">Archive</h1>
        <p className="text-ink-soft">
          Everything there is of the company in one zip file: a CSV file for each table, and all files of
          records. An empty installation of the same version is filled from it. Keep it safe: it holds
          everybody’s data. Roads of the region are not in it.
        </p>
        <Button rank="main" disabled={busy || make.isPending} onClick={() => make.mutate()}>
          Make an archive
        </Button>
        {make.isError && <Notice tone="bad">{sentenceOf(make.error)}</Notice>}
      </section>
      {archives.isError && <Notice tone="bad">{sentenceOf(archives.error)}</Notice>}
      {archives.data && (
        <>
          <List rows={archives.data.archives} />
          <BringIn isEmpty={archives.data.is_empty} />
        </>
      )}
    </div>
  );
}

const List = ({ rows }: { rows: SchemaArchiveOut[] }) => (
  <ul aria-label="Archives" className="divide-y divide-hairline border-y border-hairline">
    {rows.length === 0 && <li className="py-2 text-ink-soft">There are no archives yet.</li>}
    {rows.map((row) => (
      <li key={row.id} className="flex items-baseline gap-3 py-1.5">
        <span className="w-40">{stamp(row.asked_at)}</span>
        <span className="w-40 text-ink-soft">{row.asked_by}</span>
        <span className={`flex-1 ${row.state === 'failed' ? 'text-bad' : ''}`}>{stateInWords(row)}</span>
        {row.can_be_taken && (
          <a
            className="font-semibold underline"
            href={urlOf('/api/v1/set-up/archives/{archive_id}', { archive_id: row.id })}
            download
          >
            Take it, {sizeInWords(row.size)}
          </a>
        )}
      </li>
    ))}
  </ul>
);

function BringIn({ isEmpty }: { isEmpty: boolean }) {
  const client = useQueryClient();
  const [share, setShare] = useState(0);
  const bring = useMutation({
    mutationFn: async (file: File) => {
      const key = await sendInParts(file, setShare);
      return data(api.POST('/api/v1/set-up/archives/brought', { body: { key } }));
    },
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
  return (
    <section aria-label="Bring an archive in" className="space-y-2">
      <h2 className="font-semibold">Bring an archive in</h2>
      {isEmpty ? (
        <>
          <p className="text-ink-soft">
            All that is here is replaced, accounts too: afterwards everybody signs in with the accounts of the
            archive. What waits to be sent is sent from here: stop the old installation first.
          </p>
          <FileChoice
            className="inline-flex min-h-9 items-center gap-2 rounded-sm border border-ink bg-sheet px-3 font-semibold hover:bg-wash"
            onFile={(file) => bring.mutate(file)}
          >
            <FileUp size={16} aria-hidden />
            {bring.isPending ? `Sending… ${Math.round(100 * share)} %` : 'Choose an archive'}
          </FileChoice>
        </>
      ) : (
        <p className="text-ink-soft">
          This installation has technicians, customers or requests. An archive is brought into a new one:
          start it with <span className="figures">./relay start --no-demo</span>.
        </p>
      )}
      {bring.isError && <Notice tone="bad">{sentenceOf(bring.error)}</Notice>}
    </section>
  );
}
