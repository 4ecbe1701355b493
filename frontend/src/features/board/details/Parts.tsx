import type { SchemaVisitDetailOut } from '@/api/types';
import { usePartName, useVan } from '@/features/stock';

/** What a visit takes from the van, and what lies there. */
export function Parts({ visit }: { visit: SchemaVisitDetailOut }) {
  const van = useVan(visit.technician_id);
  const partName = usePartName();
  const takes = Object.entries(visit.takes);
  if (takes.length === 0) return null;
  const counted = van.data && van.data.length > 0;
  return (
    <section aria-label="Parts" className="text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">Parts to take</h3>
      <ul>
        {takes.map(([part, quantity]) => {
          const there = van.data?.find((row) => row.code === part)?.quantity ?? 0;
          return (
            <li key={part} className="flex gap-2">
              <span className="figures w-8 shrink-0 text-right">{quantity} ×</span>
              <span className="min-w-0 flex-1">{partName(part)}</span>
              {counted && (
                <span className={there < quantity ? 'font-semibold text-warn' : 'text-ink-soft'}>
                  {there} on the van
                </span>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
