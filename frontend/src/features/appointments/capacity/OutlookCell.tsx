import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { SchemaAreaOutlookOut, SchemaOutlookOut } from '@/api/types';
import { dayName, moment } from '@/shared/time';
import { Behind } from './Behind';
import { hours } from './hours';

interface Props {
  /** One without a key: the whole company. */
  area: Pick<SchemaAreaOutlookOut, 'area' | 'area_id'>;
  skill: string;
  cell: SchemaOutlookOut;
}

/** The hours left in one area on one day; opened, what they are made of. */
export function OutlookCell({ area, skill, cell }: Props) {
  const [open, setOpen] = useState(false);
  if (cell.shifts === 0 && cell.promised === 0) return <td className="px-2 py-1 text-ink-soft">nobody</td>;
  // To the tenth that is shown: no hour less than none is written as -0.0.
  const left = Math.round(cell.left / 360) / 10 || 0;
  const tone = left < 0 ? 'text-bad' : left < 2 ? 'text-warn' : '';
  const share = cell.shifts === 0 ? 1 : Math.min(1, Math.max(0, 1 - cell.left / cell.shifts));
  const title = `${area.area || 'Whole company'}, ${dayName(moment(cell.day, 720))}`;
  return (
    <td className="min-w-20 p-0">
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="block w-full px-2 py-1 text-left hover:bg-wash">
          <span className="sr-only">{title}: </span>
          <span className={`figures font-semibold ${tone}`}>
            {left < 0 ? '■ ' : left < 2 ? '▲ ' : ''}
            {left.toFixed(1)}
          </span>
          <span className="sr-only"> hours left </span>
          <span className="figures block text-xs text-ink-soft">
            {cell.promised > 0 ? `−${hours(cell.promised)} ` : ''}
            {cell.expected > 0 ? `~${hours(cell.expected)}` : ''}
          </span>
          <span aria-hidden className="block h-1 w-full bg-wash">
            <span className="block h-1 bg-ink-soft" style={{ width: `${100 * share}%` }} />
          </span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            side="right"
            align="start"
            sideOffset={2}
            collisionPadding={8}
            aria-label={title}
            className="z-40 max-h-[min(36rem,var(--radix-popover-content-available-height))] w-96 overflow-y-auto rounded-sm border border-ink bg-sheet p-3 text-sm"
          >
            <Behind title={title} areaId={area.area_id} skill={skill} cell={cell} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </td>
  );
}
