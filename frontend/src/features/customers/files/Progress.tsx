import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useEffect } from 'react';
import { api, data, sentenceOf, urlOf } from '@/api/client';
import type { SchemaCustomerFileOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { onChange } from '@/shared/live';
import { ColumnsForm } from './ColumnsForm';
import { RowTable, type FileRow } from './RowTable';

type File = SchemaCustomerFileOut;

/** A file that is brought in, kept up to date, and what can be said to it. */
function useFile(id: number) {
  const client = useQueryClient();
  const key = ['customers', 'file', id];
  const file = useQuery({
    queryKey: key,
    queryFn: () => data(api.GET('/api/v1/customers/import/{file_id}', { params: { path: { file_id: id } } })),
    // The stream tells; this is for when it does not.
    refetchInterval: (query) =>
      ['reading', 'importing'].includes(query.state.data?.state ?? 'reading') ? 1500 : false,
  });
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'file') void client.invalidateQueries({ queryKey: ['customers', 'file', id] });
      }),
    [client, id],
  );
  const taken = { onSuccess: (found: File) => client.setQueryData(key, found) };
  const params = { params: { path: { file_id: id } } };
  const accept = useMutation({
    mutationFn: () => data(api.POST('/api/v1/customers/import/{file_id}/accept', params)),
    ...taken,
  });
  const stop = useMutation({
    mutationFn: () => data(api.POST('/api/v1/customers/import/{file_id}/stop', params)),
    ...taken,
  });
  const choose = useMutation({
    mutationFn: (columns: Record<string, string>) =>
      data(api.POST('/api/v1/customers/import/{file_id}/columns', { ...params, body: { columns } })),
    ...taken,
  });
  return { file, accept, stop, choose };
}

/** How far a file is, what its rows would make, and the word to go, to stop, and to go on. */
export function Progress({ id }: { id: number }) {
  const { file, accept, stop, choose } = useFile(id);
  const row = file.data;
  if (file.isError) return <Notice tone="bad">{sentenceOf(file.error)}</Notice>;
  if (!row) return null;
  const failure = accept.error ?? stop.error ?? choose.error;
  const canChoose = ['columns', 'read'].includes(row.state) && Object.keys(row.columns).length > 0;
  return (
    <section aria-label="File" className="mt-5 max-w-6xl space-y-2">
      <h2 className="font-semibold">
        {row.name} <span className="font-normal text-ink-soft">{row.kind}</span>
      </h2>
      {(row.state === 'reading' || row.state === 'importing') && (
        <div className="flex items-center gap-3">
          <p role="status">
            {row.state === 'reading' ? 'Reading' : 'Bringing in'}{' '}
            <progress max={1} value={row.share} aria-label="How far" className="align-middle" />{' '}
            <span className="figures">{Math.round(100 * row.share)} %</span>
          </p>
          {row.state === 'importing' && (
            <Button disabled={row.stop_asked || stop.isPending} onClick={() => stop.mutate()}>
              {row.stop_asked ? 'Stopping…' : 'Stop'}
            </Button>
          )}
        </div>
      )}
      {row.state === 'columns' && <Notice tone="warn">{row.failure}</Notice>}
      {row.state === 'failed' && <Notice tone="bad">{row.failure}</Notice>}
      {['done', 'stopped', 'failed'].includes(row.state) && <Outcome file={row} />}
      {row.state === 'read' && <Counts file={row} busy={accept.isPending} onGo={() => accept.mutate()} />}
      {(row.state === 'stopped' || (row.state === 'failed' && Object.keys(row.outcome).length > 0)) && (
        <Button rank="main" disabled={accept.isPending} onClick={() => accept.mutate()}>
          Go on
        </Button>
      )}
      {failure && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
      {canChoose && (
        <ColumnsForm key={row.state} file={row} busy={choose.isPending} onChoose={(c) => choose.mutate(c)} />
      )}
      {row.state === 'read' && <RowTable rows={row.rows as unknown as FileRow[]} />}
      {row.refused.length > 0 && <RowTable rows={row.refused as unknown as FileRow[]} />}
    </section>
  );
}

function Counts({ file, busy, onGo }: { file: File; busy: boolean; onGo: () => void }) {
  const counts = file.counts as Record<string, number>;
  const count = (name: string) => Number(counts[name] ?? 0);
  const wanted = count('new') + count('change');
  return (
    <div className="flex flex-wrap items-center gap-4">
      <p role="status">
        <b>{count('new')}</b> new · <b>{count('change')}</b> changed · <b>{count('same')}</b> as they are ·{' '}
        <b className={count('refused') > 0 ? 'text-bad' : ''}>{count('refused')} refused</b>
      </p>
      <Button rank="main" disabled={busy || wanted === 0} onClick={onGo}>
        Bring in {wanted} {wanted === 1 ? 'row' : 'rows'}
      </Button>
      {count('refused') > 0 && <RefusedFile id={file.id} />}
    </div>
  );
}

/** What came in so far, with a way to it. */
function Outcome({ file }: { file: File }) {
  const count = (name: string) => file.outcome[name] ?? 0;
  if (Object.keys(file.outcome).length === 0) return null;
  const brought = count('new') + count('change');
  return (
    <Notice tone={file.state === 'done' ? 'good' : 'warn'}>
      <p>
        {file.state === 'stopped' ? 'Stopped. ' : ''}
        {brought} brought in: {count('new')} new, {count('change')} changed.
        {count('same') > 0 && ` ${count('same')} were as they are.`}
        {count('refused') > 0 && ` ${count('refused')} refused.`}{' '}
        {brought > 0 && (
          <Link to="/customers" className="underline">
            See the customers
          </Link>
        )}{' '}
        {count('refused') > 0 && <RefusedFile id={file.id} />}
      </p>
    </Notice>
  );
}

const RefusedFile = ({ id }: { id: number }) => (
  <a
    className="underline"
    href={urlOf('/api/v1/customers/import/{file_id}/refused.csv', { file_id: id })}
    download="refused.csv"
  >
    The refused rows as a file
  </a>
);
