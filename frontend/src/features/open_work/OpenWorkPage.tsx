import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaPreviewOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';

type Show = 'all' | 'refused' | 'accepted';
/** More rows at once would only slow the page down. */
const SHOWN_ROWS = 400;

/** Bring in open work from a file: first what would happen row by row, then all of it or nothing. */
export function OpenWorkPage() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [show, setShow] = useState<Show>('all');
  const preview = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(api.POST('/api/v1/open-work', { body: { file: '' }, bodySerializer: () => form }));
    },
    onSuccess: ({ refused }) => setShow(refused > 0 ? 'refused' : 'all'),
  });
  const accept = useMutation({
    mutationFn: (fileId: number) =>
      data(api.POST('/api/v1/open-work/{file_id}/accept', { params: { path: { file_id: fileId } } })),
    onSuccess: ({ made }) => {
      toast.success(`${made} visits are in the backlog`);
      void client.invalidateQueries({ queryKey: ['schedule'] });
      void navigate({ to: '/board' });
    },
  });
  return (
    <div className="h-full overflow-auto p-4">
      <h1 className="text-lg font-semibold">Bring in open work</h1>
      <p className="max-w-2xl text-sm text-ink-soft">
        A CSV file with one job per row. Its first row names the columns:{' '}
        <span className="figures">customer</span> and <span className="figures">description</span> are needed;
        site, address or lon and lat, phone, email, job_type, priority, duration (minutes), promise_from,
        promise_to, due, skills, contact and po_number may follow. A row obeys the rules of an order made by
        hand. Nothing is made before you say so.
      </p>
      <Choose
        busy={preview.isPending}
        onFile={(file) => {
          preview.mutate(file);
          accept.reset();
        }}
      />
      <div className="mt-3 max-w-2xl">
        {preview.isError && <Notice tone="bad">{sentenceOf(preview.error)}</Notice>}
        {accept.isError && <Notice tone="bad">{sentenceOf(accept.error)}</Notice>}
      </div>
      {preview.data && (
        <Preview
          preview={preview.data}
          show={show}
          onShow={setShow}
          busy={accept.isPending}
          onAccept={() => accept.mutate(preview.data.file_id)}
        />
      )}
    </div>
  );
}

const Choose = ({ busy, onFile }: { busy: boolean; onFile: (file: File) => void }) => (
  <label className="mt-3 inline-flex min-h-10 cursor-pointer items-center gap-2 rounded-sm border border-ink bg-sheet px-4 font-semibold focus-within:outline-2 hover:bg-wash">
    <FileUp size={16} aria-hidden />
    {busy ? 'Reading…' : 'Choose a file'}
    <input
      type="file"
      accept=".csv,text/csv,text/plain"
      className="sr-only"
      disabled={busy}
      onChange={(event) => {
        const [file] = event.target.files ?? [];
        if (file) onFile(file);
        event.target.value = '';
      }}
    />
  </label>
);

interface PreviewProps {
  preview: SchemaPreviewOut;
  show: Show;
  onShow: (show: Show) => void;
  busy: boolean;
  onAccept: () => void;
}

function Preview({ preview, show, onShow, busy, onAccept }: PreviewProps) {
  const rows = preview.rows.filter((row) => show === 'all' || row.accepted === (show === 'accepted'));
  const choices: [Show, string][] = [
    ['all', `All ${preview.rows.length}`],
    ['refused', `Refused ${preview.refused}`],
    ['accepted', `Accepted ${preview.accepted}`],
  ];
  return (
    <section aria-label="Preview" className="mt-2">
      <div className="flex flex-wrap items-center gap-2 border-y border-hairline py-2">
        <h2 className="mr-2 font-semibold">{preview.name}</h2>
        {choices.map(([value, words]) => (
          <Button
            key={value}
            aria-pressed={show === value}
            className={show === value ? 'border-ink bg-wash' : ''}
            onClick={() => onShow(value)}
          >
            {words}
          </Button>
        ))}
        <Button rank="main" className="ml-auto" disabled={preview.accepted === 0 || busy} onClick={onAccept}>
          {busy
            ? 'Bringing in…'
            : `Bring in ${preview.accepted} ${preview.accepted === 1 ? 'visit' : 'visits'}`}
        </Button>
      </div>
      {preview.refused > 0 && (
        <p className="mt-2 text-sm text-ink-soft">
          Refused rows are left out; correct them in the file and choose it again, or bring in the others now.
        </p>
      )}
      <Rows rows={rows.slice(0, SHOWN_ROWS)} />
      {rows.length > SHOWN_ROWS && (
        <p className="p-2 text-sm text-ink-soft">
          The first {SHOWN_ROWS} of {rows.length} rows are shown.
        </p>
      )}
      {rows.length === 0 && <p className="p-2 text-sm text-ink-soft">No such rows.</p>}
    </section>
  );
}

const Rows = ({ rows }: Pick<SchemaPreviewOut, 'rows'>) => (
  <table className="mt-2 w-full border-collapse text-left text-sm">
    <thead className="border-b border-ink text-xs text-ink-soft">
      <tr>
        {['Line', 'Customer', 'Site', 'What', 'What will happen'].map((head) => (
          <th key={head} className="px-2 py-1 font-semibold">
            {head}
          </th>
        ))}
      </tr>
    </thead>
    <tbody>
      {rows.map((row) => (
        <tr key={row.line} className="border-b border-hairline align-top">
          <td className="figures px-2 py-1">{row.line}</td>
          <td className="px-2 py-1">{row.customer}</td>
          <td className="px-2 py-1">{row.site}</td>
          <td className="max-w-80 truncate px-2 py-1" title={row.description}>
            {row.description}
          </td>
          <td className="px-2 py-1">
            {row.accepted ? (
              <span>✓ {row.notes.join(', ')}</span>
            ) : (
              <span className="text-bad">✕ refused: {row.problems.join('; ')}</span>
            )}
          </td>
        </tr>
      ))}
    </tbody>
  </table>
);
