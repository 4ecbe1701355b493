import { useMutation, useQueryClient } from '@tanstack/react-query';
import { FileUp } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaRegionFileOut, SchemaRoadRegionOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FileChoice } from '@/design/FileChoice';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { sendInParts } from '@/shared/parts';
import { stamp } from '@/shared/time';
import { BoundaryAreas } from './BoundaryAreas';
import { OffTheMap } from './OffTheMap';
import { isUnderWay, regionKey, useRegion } from './queries';

/** Which roads and addresses there are, and another region in their place. */
export function RegionPage() {
  const region = useRegion();
  if (region.isError)
    return (
      <div className="p-4">
        <Notice tone="bad">{sentenceOf(region.error)}</Notice>
      </div>
    );
  if (!region.data) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return (
    <div className="max-w-3xl space-y-6 p-4 text-sm">
      <Now region={region.data} />
      {region.data.last && <Last file={region.data.last} />}
      <BringIn region={region.data} />
      <BoundaryAreas boundaries={region.data.boundaries} />
      <OffTheMap />
    </div>
  );
}

const figure = (value: number) => value.toLocaleString('en-GB', { maximumFractionDigits: 0 });

const Now = ({ region }: { region: SchemaRoadRegionOut }) => (
  <section aria-label="The region" className="space-y-1">
    <h1 className="text-lg font-semibold">Region</h1>
    <p className="text-ink-soft">
      Driving times and addresses come from the roads of one region.{' '}
      {region.is_own ? 'It is one that was brought in here.' : 'It is the made-up one that is shipped.'}
    </p>
    <p>
      {figure(region.kilometres)} km of road, {figure(region.streets)} streets, {figure(region.houses)} house
      numbers, {figure(region.boundaries.length)} boundaries of districts and towns.
    </p>
  </section>
);

function Last({ file }: { file: SchemaRegionFileOut }) {
  const percent = Math.round(100 * file.share);
  return (
    <section aria-label="Last extract" className="space-y-1 border-l-2 border-copper pl-3">
      <p>
        <b>{file.name}</b>, {stamp(file.asked_at)}, {file.asked_by}
      </p>
      {isUnderWay(file) && (
        <div aria-live="polite">
          <progress className="w-64 accent-copper" value={file.share} max={1} aria-label="How far it is" />{' '}
          {file.state === 'waiting' ? 'waits' : `${file.step}, ${percent} %`}
        </div>
      )}
      {file.state === 'failed' && <Notice tone="bad">{file.failure}</Notice>}
      {file.report.map((row) => (
        <p key={row} className="text-ink-soft">
          {row}
        </p>
      ))}
    </section>
  );
}

function useBringRegion(onShare: (share: number) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (from: File | string) => {
      const body =
        typeof from === 'string'
          ? { path: from, key: '', name: '' }
          : { key: await sendInParts(from, onShare), name: from.name, path: '' };
      return data(api.POST('/api/v1/roads/region', { body }));
    },
    onSuccess: (file) => toast.success(`${file.name} is being read`),
    onSettled: () => client.invalidateQueries({ queryKey: regionKey }),
  });
}

function BringIn({ region }: { region: SchemaRoadRegionOut }) {
  const [share, setShare] = useState(0);
  const [path, setPath] = useState('');
  const bring = useBringRegion(setShare);
  const busy = bring.isPending || (region.last !== null && isUnderWay(region.last));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    bring.mutate(path.trim());
  };
  if (!region.can_change)
    return (
      <p className="text-ink-soft">
        The demo lives in its own city. A company of your own (
        <span className="figures">./relay start --no-demo</span>) brings in its region here.
      </p>
    );
  return (
    <section aria-label="Bring in another region" className="space-y-2">
      <h2 className="font-semibold">Bring in another region</h2>
      <p className="text-ink-soft">
        An extract of OpenStreetMap (.osm.pbf). The roads there are stay in use until the new ones have been
        read. Driving times are worked out anew when they are first asked for.
      </p>
      <div className="flex flex-wrap items-end gap-4">
        <FileChoice
          className="inline-flex min-h-9 items-center gap-2 rounded-sm border border-ink bg-sheet px-3 font-semibold hover:bg-wash"
          onFile={(file) => !busy && bring.mutate(file)}
        >
          <FileUp size={16} aria-hidden />
          {bring.isPending && typeof bring.variables !== 'string'
            ? `Sending… ${Math.round(100 * share)} %`
            : 'Choose an extract'}
        </FileChoice>
        <form onSubmit={submit} aria-label="From the server" className="flex flex-1 items-end gap-2">
          <TextField
            label="or the path of one that lies on the server"
            className="flex-1"
            value={path}
            onChange={(event) => setPath(event.target.value)}
          />
          <Button type="submit" disabled={!path.trim() || busy}>
            Bring it in
          </Button>
        </form>
      </div>
      <FormError error={bring.error} />
    </section>
  );
}
