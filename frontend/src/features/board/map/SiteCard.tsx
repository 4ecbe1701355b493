import { Link } from '@tanstack/react-router';
import { X } from 'lucide-react';
import { Button } from '@/design/Button';
import type { SchemaSiteOnMapOut } from '@/api/types';

interface Props {
  site: SchemaSiteOnMapOut;
  onNear: () => void;
  onClose: () => void;
}

/** A site that was pointed at on the map. */
export function SiteCard({ site, onNear, onClose }: Props) {
  return (
    <section
      aria-label={`Site ${site.name}`}
      className="absolute right-2 bottom-2 w-64 space-y-1 rounded-sm border border-ink bg-sheet p-2 text-sm"
    >
      <div className="flex items-start gap-2">
        <h3 className="min-w-0 flex-1 font-semibold">{site.name}</h3>
        <Button rank="quiet" icon={<X size={14} />} aria-label="Close the site" onClick={onClose} />
      </div>
      <p className="text-ink-soft">{site.address}</p>
      <Link
        to="/customers/$customerId"
        params={{ customerId: String(site.customer_id) }}
        className="block underline"
      >
        {site.customer_name}
      </Link>
      <Button onClick={onNear}>What waits near it?</Button>
    </section>
  );
}
