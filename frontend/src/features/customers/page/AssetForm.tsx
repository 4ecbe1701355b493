import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { api, data } from '@/api/client';
import type { SchemaAssetOut } from '@/api/types';
import { Form, FormDay, FormSelect, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { FileList, keepAtDesk, keepFile } from '@/design/FileList';
import { FormOwnFields } from '@/design/formValues';
import { useRecordFields } from '@/features/company';
import { dayName } from '@/shared/time';
import { useAddAsset, useChangeAsset } from '../commands';

const day = z.string().transform((text) => text || null);
const schema = z.object({
  kind: z.string().trim().min(1, 'Say what it is.'),
  make: z.string(),
  model: z.string(),
  serial: z.string(),
  installed_on: day,
  warranty_until: day,
  state: z.string(),
  parent_id: z.string().transform((text) => (text ? Number(text) : null)),
  extra: z.record(z.string(), z.unknown()),
});

interface FormProps {
  siteId?: number;
  asset?: SchemaAssetOut;
  others: SchemaAssetOut[];
  onDone: () => void;
}

/** A new piece of equipment, or one changed. */
export function AssetForm({ siteId, asset, others, onDone }: FormProps) {
  const add = useAddAsset();
  const change = useChangeAsset(asset?.id ?? 0);
  const own = useRecordFields().data?.find((row) => row.record === 'asset')?.questions ?? [];
  const kept = useKeptForm({
    schema,
    values: {
      kind: asset?.kind ?? '',
      make: asset?.make ?? '',
      model: asset?.model ?? '',
      serial: asset?.serial ?? '',
      installed_on: asset?.installed_on ?? '',
      warranty_until: asset?.warranty_until ?? '',
      state: asset?.state ?? 'in service',
      parent_id: asset?.parent_id ? String(asset.parent_id) : '',
      extra: (asset?.extra ?? {}) as Record<string, unknown>,
    },
    keep: async (read) => {
      const fields = { ...read, state: read.state as SchemaAssetOut['state'] };
      if (asset) await change.mutateAsync({ ...fields, version: asset.version });
      else await add.mutateAsync({ ...fields, site_id: siteId! });
      onDone();
    },
  });
  return (
    <Form kept={kept} label="Equipment" className="my-2 max-w-3xl space-y-2 border-l-2 border-copper pl-3">
      <div className="grid grid-cols-4 gap-2">
        <FormText name="kind" label="Kind" required />
        <FormText name="make" label="Make" />
        <FormText name="model" label="Model" />
        <FormText name="serial" label="Serial number" />
        <FormDay name="installed_on" label="Installed" past />
        <FormDay name="warranty_until" label="Warranty until" />
        <FormSelect name="state" label="State">
          <option>in service</option>
          <option>out of service</option>
          <option>removed</option>
        </FormSelect>
        <FormSelect name="parent_id" label="Part of">
          <option value="">stands alone</option>
          {others
            .filter((row) => row.id !== asset?.id)
            .map((row) => (
              <option key={row.id} value={row.id}>
                {row.kind} {row.serial}
              </option>
            ))}
        </FormSelect>
      </div>
      <FormOwnFields
        name="extra"
        questions={own}
        onFile={(file) => (asset ? keepFile('asset', asset.id, file) : keepAtDesk(file))}
      />
      <KeepOrLeave words="Save equipment" onLeave={onDone} />
    </Form>
  );
}

/** A piece of equipment: what was done on it, files, change. */
export function AssetDetail({
  asset,
  others,
  canChange,
}: {
  asset: SchemaAssetOut;
  others: SchemaAssetOut[];
  canChange: boolean;
}) {
  const [editing, setEditing] = useState(false);
  const done = useQuery({
    queryKey: ['orders', 'done', 'asset', asset.id],
    queryFn: () =>
      data(api.GET('/api/v1/orders/done/asset/{asset_id}', { params: { path: { asset_id: asset.id } } })),
  });
  const facts = [
    asset.installed_on ? `installed ${asset.installed_on}` : '',
    asset.warranty_until ? `warranty until ${asset.warranty_until}` : '',
    ...Object.entries(asset.extra).map(([key, value]) => `${key.replaceAll('_', ' ')}: ${String(value)}`),
  ].filter(Boolean);
  return (
    <div className="space-y-1 border-l border-hairline pl-3">
      <p className="text-ink-soft">
        {facts.join(' · ') || 'Nothing more is known of it.'}{' '}
        {canChange && (
          <button type="button" className="underline" onClick={() => setEditing((value) => !value)}>
            change
          </button>
        )}
      </p>
      {editing && <AssetForm asset={asset} others={others} onDone={() => setEditing(false)} />}
      <ul>
        {(done.data ?? []).map((row) => (
          <li key={row.visit_id}>
            <span className="figures text-ink-soft">{row.finished ? dayName(row.finished) : ''}</span>{' '}
            {row.title} · {row.technician}: {row.outcome || 'nothing noted'}
          </li>
        ))}
        {done.isSuccess && done.data.length === 0 && <li className="text-ink-soft">No work on it yet.</li>}
      </ul>
      <FileList record="asset" id={asset.id} canAdd={canChange} />
    </div>
  );
}
