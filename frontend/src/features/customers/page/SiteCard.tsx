import { useState } from 'react';
import type { SchemaAssetOut, SchemaSiteWithAssetsOut } from '@/api/types';
import { Button } from '@/design/Button';
import { NewQuoteLink } from '@/features/pricing';
import { FittedIn } from '@/features/stock';
import { AssetForm, AssetDetail } from './AssetForm';
import { SiteForm } from './SiteForm';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** A site with its access, hours, people wanted and not, and the equipment there. */
export function SiteCard({
  customerId,
  site,
  canChange,
  alone,
}: {
  customerId: number;
  site: SchemaSiteWithAssetsOut;
  canChange: boolean;
  alone: boolean;
}) {
  const [mode, setMode] = useState<'edit' | 'asset' | null>(null);
  const [open, setOpen] = useState(alone);
  return (
    <article className="border-t border-hairline pt-1.5" aria-label={site.name}>
      <div className="flex items-start justify-between gap-2">
        <button
          type="button"
          aria-expanded={open}
          className="text-left"
          onClick={() => setOpen((value) => !value)}
        >
          <b>{site.name}</b>{' '}
          <span className="text-sm text-ink-soft">
            {site.address} · {site.area ?? <b className="text-bad">outside every area</b>} ·{' '}
            {site.assets.length} pieces of equipment
          </span>
        </button>
        {canChange && (
          <span className="flex">
            <Button rank="quiet" onClick={() => setMode(mode === 'edit' ? null : 'edit')}>
              Change
            </Button>
            <Button
              rank="quiet"
              onClick={() => {
                setOpen(true);
                setMode(mode === 'asset' ? null : 'asset');
              }}
            >
              Add equipment
            </Button>
          </span>
        )}
      </div>
      {mode === 'edit' && <SiteForm key={site.version} site={site} onDone={() => setMode(null)} />}
      {mode === 'asset' && <AssetForm siteId={site.id} others={site.assets} onDone={() => setMode(null)} />}
      {open && <Inside customerId={customerId} site={site} canChange={canChange} />}
    </article>
  );
}

/** Access, hours, people and equipment of a site. */
function Inside({
  customerId,
  site,
  canChange,
}: {
  customerId: number;
  site: SchemaSiteWithAssetsOut;
  canChange: boolean;
}) {
  const [asset, setAsset] = useState<number | null>(null);
  const people = [
    site.preferred.length > 0 ? `preferred: ${names(site.preferred)}` : '',
    site.required.length > 0 ? `only: ${names(site.required)}` : '',
    site.refused.length > 0 ? `not wanted: ${names(site.refused)}` : '',
  ].filter(Boolean);
  return (
    <div className="space-y-1 pl-3 text-sm">
      <NewQuoteLink from={{ customer: customerId, site: site.id }} words="Quote for this site" />
      {site.access_notes && <p>{site.access_notes}</p>}
      {site.opening.some(Boolean) && (
        <p className="text-ink-soft">
          Open{' '}
          {site.opening
            .map((span, day) => (span ? `${DAYS[day]} ${span}` : ''))
            .filter(Boolean)
            .join(', ')}
        </p>
      )}
      {people.length > 0 && <p className="text-ink-soft">{people.join(' · ')}</p>}
      <ul>
        {site.assets.map((row) => (
          <li key={row.id} className={row.parent_id ? 'pl-5' : ''}>
            <button
              type="button"
              aria-expanded={asset === row.id}
              className="hover:underline"
              onClick={() => setAsset(asset === row.id ? null : row.id)}
            >
              {row.parent_id ? '└ ' : ''}
              {row.kind} {row.make} {row.model} <span className="figures">{row.serial}</span>{' '}
              <span className="text-ink-soft">{warranty(row)}</span>
            </button>
            {asset === row.id && (
              <NewQuoteLink
                from={{ customer: customerId, site: site.id, asset: row.id }}
                words="Quote for this equipment"
              />
            )}
            {asset === row.id && <FittedIn assetId={row.id} />}
            {asset === row.id && <AssetDetail asset={row} others={site.assets} canChange={canChange} />}
          </li>
        ))}
      </ul>
    </div>
  );
}

function warranty(row: SchemaAssetOut): string {
  return [
    row.state !== 'in service' ? row.state : '',
    row.warranty_until ? `warranty to ${row.warranty_until}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
}

const names = (rows: { name: string }[]) => rows.map((row) => row.name).join(', ');
