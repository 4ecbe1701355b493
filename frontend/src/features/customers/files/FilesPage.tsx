import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { FileUp } from 'lucide-react';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { onChange } from '@/shared/live';

type Kind = 'customers' | 'sites' | 'contacts' | 'assets';
const KINDS: { kind: Kind; columns: string }[] = [
  { kind: 'customers', columns: 'name, phone, email, payer, needs_po_number, tags' },
  { kind: 'sites', columns: 'customer, name, address, lon, lat, access_notes' },
  { kind: 'contacts', columns: 'customer, name, role, phone, email, site; or a vCard file' },
  {
    kind: 'assets',
    columns: 'customer, site, kind, make, model, serial, installed_on, warranty_until, state',
  },
];
interface Row {
  line: number;
  becomes: string;
  words: string;
  notes: string[];
  problems: string[];
}

/** Customers, sites, contacts and equipment from files, and out again. Nothing is half brought in. */
export function FilesPage() {
  const client = useQueryClient();
  const [kind, setKind] = useState<Kind>('customers');
  const [fileId, setFileId] = useState<number | null>(null);
  const upload = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(
        api.POST('/api/customers/import/of/{kind}', {
          params: { path: { kind } },
          body: { file: '' },
          bodySerializer: () => form,
        }),
      );
    },
    onSuccess: (file) => setFileId(file.id),
  });
  const points = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(
        api.POST('/api/customers/sites.geojson', { body: { file: '' }, bodySerializer: () => form }),
      );
    },
    onSuccess: ({ made }) => {
      toast.success(`${made} sites made`);
      void client.invalidateQueries({ queryKey: ['customers'] });
    },
  });
  return (
    <div className="h-full overflow-y-auto p-4">
      <h1 className="text-lg font-semibold">Customer files</h1>
      <div className="mt-2 grid max-w-5xl grid-cols-2 gap-6 text-sm">
        <section aria-label="Bring in">
          <h2 className="font-semibold">Bring in</h2>
          <div className="my-1 flex gap-1">
            {KINDS.map((row) => (
              <Button key={row.kind} aria-pressed={row.kind === kind} onClick={() => setKind(row.kind)}>
                {row.kind}
              </Button>
            ))}
          </div>
          <p className="text-ink-soft">
            CSV with a first row that names the columns:{' '}
            <span className="figures">{KINDS.find((row) => row.kind === kind)?.columns}</span>. Own fields
            follow as <span className="figures">extra.key</span>.
          </p>
          <Choose
            words={upload.isPending ? 'Sending…' : `Choose a file of ${kind}`}
            onFile={(file) => upload.mutate(file)}
          />
          {kind === 'sites' && (
            <Choose words="or sites as GeoJSON points" onFile={(file) => points.mutate(file)} />
          )}
          {upload.isError && <Notice tone="bad">{sentenceOf(upload.error)}</Notice>}
          {points.isError && <Notice tone="bad">{sentenceOf(points.error)}</Notice>}
          {points.data && points.data.problems.length > 0 && (
            <Notice tone="warn">Left out: {points.data.problems.join('; ')}</Notice>
          )}
        </section>
        <section aria-label="Take out">
          <h2 className="font-semibold">Take out</h2>
          <ul className="mt-1 space-y-1">
            {KINDS.map((row) => (
              <li key={row.kind}>
                <a className="underline" href={`/api/customers/export/${row.kind}.csv`} download>
                  {row.kind}.csv
                </a>
              </li>
            ))}
            <li>
              <a className="underline" href="/api/customers/contacts.vcf" download>
                contacts.vcf (vCard)
              </a>
            </li>
            <li>
              <a className="underline" href="/api/customers/sites.geojson" download>
                sites.geojson
              </a>
            </li>
          </ul>
        </section>
      </div>
      {fileId !== null && <Progress key={fileId} id={fileId} />}
    </div>
  );
}

function Choose({ words, onFile }: { words: string; onFile: (file: File) => void }) {
  return (
    <label className="mt-2 mr-2 inline-flex min-h-9 cursor-pointer items-center gap-2 rounded-sm border border-ink bg-sheet px-3 font-semibold focus-within:outline-2 hover:bg-wash">
      <FileUp size={16} aria-hidden />
      {words}
      <input
        type="file"
        className="sr-only"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) onFile(file);
          event.target.value = '';
        }}
      />
    </label>
  );
}

/** How far a file is, what its rows would make, and the word to go. */
function Progress({ id }: { id: number }) {
  const client = useQueryClient();
  const key = ['customers', 'file', id];
  const file = useQuery({
    queryKey: key,
    queryFn: () => data(api.GET('/api/customers/import/{file_id}', { params: { path: { file_id: id } } })),
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
  const accept = useMutation({
    mutationFn: () =>
      data(api.POST('/api/customers/import/{file_id}/accept', { params: { path: { file_id: id } } })),
    onSuccess: (found) => client.setQueryData(key, found),
  });
  const row = file.data;
  if (!row) return null;
  const counts = row.counts as Record<string, number | string[]>;
  const rows = row.rows as unknown as Row[];
  const count = (name: string) => Number(counts[name] ?? 0);
  const unknown = (counts.unknown as string[] | undefined) ?? [];
  return (
    <section aria-label="File" className="mt-5 max-w-6xl">
      <h2 className="font-semibold">
        {row.name} <span className="font-normal text-ink-soft">{row.kind}</span>
      </h2>
      {(row.state === 'reading' || row.state === 'importing') && (
        <p role="status">
          {row.state === 'reading' ? 'Reading' : 'Bringing in'}{' '}
          <progress max={1} value={row.share} aria-label="How far" className="align-middle" />{' '}
          <span className="figures">{Math.round(100 * row.share)} %</span>
        </p>
      )}
      {row.state === 'failed' && <Notice tone="bad">{row.failure}</Notice>}
      {row.state === 'done' && (
        <Notice tone="good">
          Brought in: {count('new')} new, {count('change')} changed.
        </Notice>
      )}
      {row.state === 'read' && (
        <div className="my-2 flex flex-wrap items-center gap-4">
          <p role="status">
            <b>{count('new')}</b> new · <b>{count('change')}</b> changed · <b>{count('same')}</b> as they are
            · <b className={count('refused') > 0 ? 'text-bad' : ''}>{count('refused')} refused</b>
          </p>
          <Button
            rank="main"
            disabled={accept.isPending || count('new') + count('change') === 0}
            onClick={() => accept.mutate()}
          >
            Bring in {count('new') + count('change')} rows
          </Button>
          {unknown.length > 0 && (
            <span className="text-warn">Columns nobody knows, left out: {unknown.join(', ')}</span>
          )}
        </div>
      )}
      {accept.isError && <Notice tone="bad">{sentenceOf(accept.error)}</Notice>}
      {row.state === 'read' && (
        <table className="w-full text-left text-sm" aria-label="Rows of the file">
          <tbody>
            {rows.map((one) => (
              <tr key={one.line} className="border-t border-hairline align-top">
                <td className="figures w-14 pr-2 text-ink-soft">{one.line}</td>
                <td className={`w-20 pr-2 font-semibold ${one.becomes === 'refused' ? 'text-bad' : ''}`}>
                  {one.becomes}
                </td>
                <td className="pr-2">{one.words}</td>
                <td className={one.problems.length > 0 ? 'text-bad' : 'text-ink-soft'}>
                  {[...one.problems, ...one.notes].join('; ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
