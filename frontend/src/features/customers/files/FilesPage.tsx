import { useMutation, useQueryClient } from '@tanstack/react-query';
import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf, urlOf } from '@/api/client';
import { Button } from '@/design/Button';
import { FileChoice } from '@/design/FileChoice';
import { Notice } from '@/design/Notice';
import { Progress } from './Progress';

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
/** Customers, sites, contacts and equipment from files, and out again. */
export function FilesPage() {
  const [fileId, setFileId] = useState<number | null>(null);
  return (
    <div className="h-full overflow-y-auto p-4">
      <h1 className="text-lg font-semibold">Customer files</h1>
      <div className="mt-2 grid max-w-5xl grid-cols-2 gap-6 text-sm">
        <BringIn onFile={setFileId} />
        <TakeOut />
      </div>
      {fileId !== null && <Progress key={fileId} id={fileId} />}
    </div>
  );
}

function useUploads(kind: Kind, onFile: (id: number) => void) {
  const client = useQueryClient();
  const upload = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(
        api.POST('/api/v1/customers/import/of/{kind}', {
          params: { path: { kind } },
          body: { file: '' },
          bodySerializer: () => form,
        }),
      );
    },
    onSuccess: (file) => onFile(file.id),
  });
  const points = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return data(api.POST('/api/v1/sites.geojson', { body: { file: '' }, bodySerializer: () => form }));
    },
    onSuccess: ({ made }) => {
      toast.success(`${made} sites made`);
      void client.invalidateQueries({ queryKey: ['customers'] });
    },
  });
  return { upload, points };
}

function BringIn({ onFile }: { onFile: (id: number) => void }) {
  const [kind, setKind] = useState<Kind>('customers');
  const { upload, points } = useUploads(kind, onFile);
  return (
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
        CSV (commas, semicolons or tabs) with a first row of headings. They may be your own: what each means
        is guessed, you correct it, and it is remembered. Columns:{' '}
        <span className="figures">{KINDS.find((row) => row.kind === kind)?.columns}</span>. Own fields follow
        as <span className="figures">extra.key</span>.
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
  );
}

const TakeOut = () => (
  <section aria-label="Take out">
    <h2 className="font-semibold">Take out</h2>
    <ul className="mt-1 space-y-1">
      {KINDS.map((row) => (
        <li key={row.kind}>
          <a
            className="underline"
            href={urlOf('/api/v1/customers/export/{kind}.csv', { kind: row.kind })}
            download
          >
            {row.kind}.csv
          </a>
        </li>
      ))}
      <li>
        <a className="underline" href={urlOf('/api/v1/customers/contacts.vcf')} download>
          contacts.vcf (vCard)
        </a>
      </li>
      <li>
        <a className="underline" href={urlOf('/api/v1/sites.geojson')} download>
          sites.geojson
        </a>
      </li>
    </ul>
  </section>
);

const Choose = ({ words, onFile }: { words: string; onFile: (file: File) => void }) => (
  <FileChoice
    className="mt-2 mr-2 inline-flex min-h-9 items-center gap-2 rounded-sm border border-ink bg-sheet px-3 font-semibold hover:bg-wash"
    onFile={onFile}
  >
    <FileUp size={16} aria-hidden />
    {words}
  </FileChoice>
);
