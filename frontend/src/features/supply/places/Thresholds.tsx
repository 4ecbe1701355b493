import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaThresholdOut } from '@/api/types';
import { Button } from '@/design/Button';
import { complain } from '@/shared/complain';
import { useAcceptThresholds, useThresholds } from '../queries';

/** Least and target levels as a year's use proposes them, to be taken over. */
export function Thresholds({ placeId }: { placeId: number }) {
  const [open, setOpen] = useState(false);
  const found = useThresholds(placeId, open);
  const accept = useAcceptThresholds(placeId);
  const rows = (found.data ?? []).filter(
    (row) =>
      row.proposed_target > 0 &&
      (row.least !== row.proposed_least || row.target !== row.proposed_target) &&
      !row.by_hand,
  );
  return (
    <details
      className="border border-hairline bg-sheet p-3 text-sm"
      onToggle={(event) => setOpen((event.target as HTMLDetailsElement).open)}
    >
      <summary className="font-semibold">Least and target levels, proposed from a year’s use</summary>
      {found.isSuccess && rows.length === 0 && (
        <p className="pt-2 text-ink-soft">All levels are as a year’s use proposes, or set by hand.</p>
      )}
      {rows.length > 0 && (
        <>
          <Proposals rows={rows.slice(0, 200)} />
          <Button
            className="mt-2"
            disabled={accept.isPending}
            onClick={() =>
              accept.mutate(
                rows.map((row) => row.code),
                { onSuccess: (count) => toast.success(`${count} levels changed`), onError: complain },
              )
            }
          >
            Take all {rows.length} over
          </Button>
        </>
      )}
    </details>
  );
}

const Proposals = ({ rows }: { rows: SchemaThresholdOut[] }) => (
  <table className="mt-2 w-full" aria-label="Proposed levels">
    <thead>
      <tr className="text-left text-xs text-ink-soft">
        {['Part', 'Used in a year', 'Now', 'Proposed'].map((title) => (
          <th key={title} scope="col" className="font-semibold">
            {title}
          </th>
        ))}
      </tr>
    </thead>
    <tbody>
      {rows.map((row) => (
        <tr key={row.code} className="border-t border-hairline">
          <th scope="row" className="text-left font-normal">
            {row.part}
          </th>
          <td className="figures">{row.used}</td>
          <td className="figures">{row.least == null ? '–' : `${row.least} – ${row.target}`}</td>
          <td className="figures font-semibold">
            {row.proposed_least} – {row.proposed_target}
          </td>
        </tr>
      ))}
    </tbody>
  </table>
);
