import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, data } from '@/api/client';
import type { SchemaAssetIn, SchemaAssetOut } from '@/api/types';
import { DayField } from '@/design/DayField';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { SelectField, TextField } from '@/design/Field';
import { FileList, keepAtDesk, keepFile } from '@/design/FileList';
import { Questions } from '@/design/Questions';
import { useRecordFields } from '@/features/company';
import type { Question } from '@/shared/questions';
import { dayName } from '@/shared/time';
import { useAddAsset, useChangeAsset } from '../commands';

interface FormProps {
  siteId?: number;
  asset?: SchemaAssetOut;
  others: SchemaAssetOut[];
  onDone: () => void;
}

type AssetFields = Omit<SchemaAssetIn, 'site_id'>;

/** A new piece of equipment, or one changed. */
export function AssetForm({ siteId, asset, others, onDone }: FormProps) {
  const [form, setForm] = useState<AssetFields>({
    kind: asset?.kind ?? '',
    make: asset?.make ?? '',
    model: asset?.model ?? '',
    serial: asset?.serial ?? '',
    installed_on: asset?.installed_on ?? null,
    warranty_until: asset?.warranty_until ?? null,
    state: asset?.state ?? 'in service',
    parent_id: asset?.parent_id ?? null,
    extra: asset?.extra ?? {},
  });
  const set = (changes: Partial<AssetFields>) => setForm((old) => ({ ...old, ...changes }));
  const add = useAddAsset();
  const change = useChangeAsset(asset?.id ?? 0);
  const own = useRecordFields();
  const questions = (own.data?.find((row) => row.record === 'asset')?.questions ??
    []) as unknown as Question[];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (asset) change.mutate({ ...form, version: asset.version }, { onSuccess: onDone });
    else add.mutate({ ...form, site_id: siteId! }, { onSuccess: onDone });
  };
  const error = add.error ?? change.error;
  const text = (name: 'kind' | 'make' | 'model' | 'serial', label: string) => (
    <TextField
      name={name}
      label={label}
      required={name === 'kind'}
      value={form[name]}
      onChange={(event) => set({ [name]: event.target.value })}
    />
  );
  return (
    <form
      onSubmit={submit}
      className="my-2 max-w-3xl space-y-2 border-l-2 border-copper pl-3"
      aria-label="Equipment"
    >
      <div className="grid grid-cols-4 gap-2">
        {text('kind', 'Kind')}
        {text('make', 'Make')}
        {text('model', 'Model')}
        {text('serial', 'Serial number')}
        <DayField
          label="Installed"
          past
          value={form.installed_on ?? ''}
          onChange={(day) => set({ installed_on: day || null })}
        />
        <DayField
          name="warranty_until"
          label="Warranty until"
          value={form.warranty_until ?? ''}
          onChange={(day) => set({ warranty_until: day || null })}
        />
        <SelectField
          name="state"
          label="State"
          value={form.state}
          onChange={(event) => set({ state: event.target.value })}
        >
          <option>in service</option>
          <option>out of service</option>
          <option>removed</option>
        </SelectField>
        <SelectField
          label="Part of"
          value={form.parent_id ?? ''}
          onChange={(event) => set({ parent_id: event.target.value ? Number(event.target.value) : null })}
        >
          <option value="">stands alone</option>
          {others
            .filter((row) => row.id !== asset?.id)
            .map((row) => (
              <option key={row.id} value={row.id}>
                {row.kind} {row.serial}
              </option>
            ))}
        </SelectField>
      </div>
      <Questions
        questions={questions}
        answers={form.extra ?? {}}
        onChange={(extra) => set({ extra })}
        onFile={(file) => (asset ? keepFile('asset', asset.id, file) : keepAtDesk(file))}
      />
      <FormError error={error} />
      <div className="flex gap-2">
        <Button type="submit" disabled={add.isPending || change.isPending}>
          Keep equipment
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </form>
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
