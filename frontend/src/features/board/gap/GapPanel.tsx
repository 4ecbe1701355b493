import { useQuery } from '@tanstack/react-query';
import { sentenceOf } from '@/api/client';
import type { SchemaFillerOut, SchemaGapOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { PanelHead } from '@/design/PanelHead';
import { clockTime, dayName, length, window_ } from '@/shared/time';
import { grab } from '../lanes/useBoardInteraction';
import { useBringForward, usePlace } from '../commands';
import type { Board } from '../model';
import type { Shown } from '@/features/scheduling';
import { gapQuery, nextQuery } from '../queries';
import type { Gap } from '../search';

interface Props {
  board: Board;
  /** A stretch of somebody's day, or the visit after which something is to come. */
  gap: Gap;
  canPlan: boolean;
  onShow: (placement: Shown | null) => void;
  onVisit: (visit: number) => void;
  onClose: () => void;
}

/** What could fill a gap: those who would come forward first, then work without a place, with its driving. */
export function GapPanel(props: Props) {
  return 'after' in props.gap ? (
    <After {...props} visitId={props.gap.after} />
  ) : (
    <Stretch {...props} gap={props.gap} />
  );
}

function Stretch(props: Props & { gap: Exclude<Gap, { after: number }> }) {
  const found = useQuery(gapQuery(props.gap));
  return <Panel {...props} found={found.data} pending={found.isPending} error={found.error} />;
}

function After(props: Props & { visitId: number }) {
  const found = useQuery(nextQuery(props.visitId));
  return <Panel {...props} found={found.data ?? undefined} pending={found.isPending} error={found.error} />;
}

interface PanelProps extends Props {
  found: SchemaGapOut | undefined;
  pending: boolean;
  error: unknown;
}

function Panel({ board, found, pending, error, canPlan, onShow, onVisit, onClose }: PanelProps) {
  const place = usePlace();
  const who = board.lanes.find((lane) => lane.technician_id === found?.technician_id)?.name ?? 'technician';
  const forward = useBringForward();
  const take = (row: SchemaFillerOut) => {
    if (!found) return;
    onShow(null);
    const placement = { visit: grab(row.visit), technicianId: found.technician_id, start: row.start };
    if (row.standby) forward.mutate(placement, { onSuccess: onClose });
    else place.mutate(placement, { onSuccess: onClose });
  };
  return (
    <section aria-label="Fill the gap" className="flex min-h-0 flex-1 flex-col">
      <PanelHead
        title={found ? `Free: ${who}` : 'A gap'}
        below={
          found && (
            <p className="text-sm text-ink-soft">
              {dayName(found.start)} <time>{clockTime(found.start)}</time> to{' '}
              <time>{clockTime(found.end)}</time>, {length(found.end - found.start)}
            </p>
          )
        }
        closeLabel="Close the gap"
        onClose={onClose}
      />
      <div className="min-h-0 flex-1 overflow-y-auto">
        <Findings found={found} pending={pending} error={error} />
        <ol aria-label="What fits" className="divide-y divide-hairline">
          {found?.fillers.map((row, index) => (
            <li key={row.visit.id}>
              <Filler
                row={row}
                rank={index + 1}
                canPlan={canPlan && !place.isPending && !forward.isPending}
                onTake={() => take(row)}
                onVisit={() => onVisit(row.visit.id)}
                onShow={(on) =>
                  onShow(
                    on
                      ? { visitId: row.visit.id, technicianId: found.technician_id, start: row.start }
                      : null,
                  )
                }
              />
            </li>
          ))}
        </ol>
      </div>
    </section>
  );
}

/** What is said where there is no list, or an empty one. */
const Findings = ({ found, pending, error }: Pick<PanelProps, 'found' | 'pending' | 'error'>) => (
  <>
    {error !== null && <Notice tone="bad">{sentenceOf(error)}</Notice>}
    {pending && <p className="p-3 text-sm text-ink-soft">Looking what fits…</p>}
    {!pending && !found && error === null && (
      <p className="p-3 text-sm text-ink-soft">No free time follows on that day.</p>
    )}
    {found?.fillers.length === 0 && (
      <p className="p-3 text-sm text-ink-soft">
        Nothing fits there without breaking a promise or a limit, from the standby list or the backlog.
      </p>
    )}
  </>
);

interface FillerProps {
  row: SchemaFillerOut;
  /** As on the map. */
  rank: number;
  canPlan: boolean;
  onTake: () => void;
  onVisit: () => void;
  onShow: (on: boolean) => void;
}

function Filler({ row, rank, canPlan, onTake, onVisit, onShow }: FillerProps) {
  const { visit } = row;
  const more = Math.round(row.extra_drive_seconds / 60);
  const facts = [
    `${Math.round(row.drive_seconds / 60)} min to drive there`,
    more >= 0 ? `${more} min more in all` : `${-more} min less in all`,
    visit.duration_seconds ? length(visit.duration_seconds) : '',
  ].filter(Boolean);
  return (
    <div
      className="flex items-start gap-2 px-3 py-2 hover:bg-wash"
      onPointerEnter={() => onShow(true)}
      onPointerLeave={() => onShow(false)}
      onFocus={() => onShow(true)}
      onBlur={() => onShow(false)}
    >
      <span className="figures w-4 shrink-0 text-right text-sm text-ink-soft">{rank}</span>
      <button type="button" className="min-w-0 flex-1 text-left text-sm" onClick={onVisit}>
        <span className="block truncate font-semibold">{visit.title}</span>
        <span className="block truncate">{visit.site}</span>
        <span className="block text-xs text-ink-soft">{facts.join(' · ')}</span>
        {row.standby && (
          <span className="block text-xs font-semibold">
            Standby: would come forward{visit.promise ? ` from ${window_(visit.promise)}` : ''}
          </span>
        )}
        {!row.standby && visit.promise && (
          <span className="block text-xs font-semibold text-bad">
            promised {window_(visit.promise)}, nobody yet
          </span>
        )}
      </button>
      {canPlan && (
        <Button rank={rank === 1 ? 'main' : 'plain'} onClick={onTake} autoFocus={rank === 1}>
          <time>{clockTime(row.start)}</time>
        </Button>
      )}
    </div>
  );
}
