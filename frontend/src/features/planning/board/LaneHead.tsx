import { Route } from 'lucide-react';
import { HoverCard } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import { Portrait } from '@/features/people';
import { length } from '@/shared/time';
import { useSendDay } from '../commands';
import { brokenOf, load, type Lane } from '../model';
import { LABEL_WIDTH } from './measures';

interface Props {
  lane: Lane;
  unfit: string[] | null;
  onPlan: ((technicianId: number) => void) | undefined;
}

/** Who a line belongs to: how full the days are at a glance, everything else on hover or focus. */
export function LaneHead({ lane, unfit, onPlan }: Props) {
  // The card is made for a head that somebody comes near: hundreds scroll by.
  const [met, setMet] = useState(false);
  const meet = () => setMet(true);
  const head = (
    <button type="button" className="flex h-full min-w-0 flex-1 items-center gap-2 px-2 text-left">
      <Portrait technicianId={lane.technician_id} size={32} />
      <span className="min-w-0 flex-1">
        <span className="block truncate text-sm leading-tight font-semibold">{lane.name}</span>
        {unfit?.length ? (
          <span className="block truncate text-xs text-bad">{unfit[0]}</span>
        ) : (
          <Fullness lane={lane} />
        )}
      </span>
    </button>
  );
  return (
    <div
      data-head={lane.technician_id}
      onPointerEnter={meet}
      onFocus={meet}
      className="group sticky left-0 z-20 flex items-center border-r border-hairline bg-paper"
      style={{ width: LABEL_WIDTH, minWidth: LABEL_WIDTH }}
    >
      {met ? (
        <HoverCard.Root openDelay={350} closeDelay={120}>
          <HoverCard.Trigger asChild>{head}</HoverCard.Trigger>
          <HoverCard.Portal>
            <HoverCard.Content
              side="right"
              align="start"
              sideOffset={4}
              className="z-40 w-80 rounded-sm border border-ink bg-sheet p-3 text-sm"
            >
              <About lane={lane} mayPlan={onPlan !== undefined} />
            </HoverCard.Content>
          </HoverCard.Portal>
        </HoverCard.Root>
      ) : (
        head
      )}
      {onPlan && lane.days.some((day) => day.shift) && (
        <button
          type="button"
          className="absolute right-1 rounded-sm border border-hairline bg-sheet p-1 opacity-0 group-hover:opacity-100 focus:opacity-100"
          aria-label={`Plan the day of ${lane.name}`}
          title="Put this day in order, or fill it"
          onClick={() => onPlan(lane.technician_id)}
        >
          <Route size={14} aria-hidden />
        </button>
      )}
    </div>
  );
}

function Fullness({ lane }: { lane: Lane }) {
  const full = load(lane);
  const tight = brokenOf(lane).some((row) => row.visit_id === null);
  if (!full)
    return (
      <span className="block text-xs text-ink-soft">{lane.days.length === 0 ? 'fetching…' : 'no shift'}</span>
    );
  return (
    <>
      <span className="mt-0.5 block h-1 w-full bg-wash" aria-hidden>
        <span
          className={`block h-full ${full.share > 1 ? 'bg-copper' : 'bg-ink-soft'}`}
          style={{ width: `${Math.min(1, full.share) * 100}%` }}
        />
      </span>
      <span className="block truncate text-[11px] text-ink-soft">
        {tight && <b className="text-warn">no break · </b>}
        <span className="figures">{Math.round(full.share * 100)}</span> % full ·{' '}
        <span className="figures">{Math.round(full.driving * 100)}</span> % road
      </span>
    </>
  );
}

/** Hours, skills, areas, how to reach them, and what is wrong with the days shown. */
function About({ lane, mayPlan }: { lane: Lane; mayPlan: boolean }) {
  const full = load(lane);
  const rows: [string, string][] = [
    ['Depot', lane.depot],
    ['Phone', lane.phone],
    ['Areas', lane.areas.join(', ') || 'every area'],
    [
      'Skills',
      Object.entries(lane.skills)
        .map(([skill, level]) => `${skill} ${level}`)
        .join(', ') || 'none',
    ],
  ];
  if (full) {
    rows.unshift(
      ['Planned', `${length(full.planned)} · ${Math.round(full.driving * 100)} % of it driving`],
      ['Free', length(full.free)],
    );
    if (full.overtime) rows.push(['Overtime', length(full.overtime)]);
  }
  return (
    <>
      <p className="font-semibold">{lane.name}</p>
      <dl className="mt-1 grid grid-cols-[5rem_1fr] gap-y-0.5">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-soft">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {brokenOf(lane)
        .slice(0, 6)
        .map((row) => (
          <p key={row.sentence} className="mt-1 border-l-4 border-warn bg-warn-wash px-2 py-0.5">
            {row.sentence}
          </p>
        ))}
      <TakeAlong lane={lane} mayPlan={mayPlan} />
    </>
  );
}

/** What a technician takes along: the day on paper, and the calendar's secret link; and sending the day. */
function TakeAlong({ lane, mayPlan }: { lane: Lane; mayPlan: boolean }) {
  const send = useSendDay();
  const [first] = lane.days;
  const copy = async () => {
    const { path } = await data(
      api.GET('/api/planning/technicians/{technician_id}/calendar-link', {
        params: { path: { technician_id: lane.technician_id } },
      }),
    );
    await navigator.clipboard.writeText(`${window.location.origin}${path}`);
    toast.success(`The link to ${lane.name}’s calendar is copied. Whoever has it reads the calendar.`);
  };
  if (!first) return null;
  return (
    <div className="mt-2 flex flex-wrap gap-x-3 gap-y-1 border-t border-hairline pt-2">
      {lane.days.length === 1 && (
        <a
          className="underline"
          target="_blank"
          rel="noreferrer"
          href={`/api/planning/route-sheet?day=${first.day}&technician_id=${lane.technician_id}`}
        >
          Route sheet (PDF)
        </a>
      )}
      {mayPlan && (
        <>
          <button
            type="button"
            className="underline"
            onClick={() => copy().catch((error: unknown) => toast.error(sentenceOf(error)))}
          >
            Copy calendar link
          </button>
          <button
            type="button"
            className="underline"
            disabled={send.isPending}
            onClick={() => send.mutate({ day: first.day, days: lane.days.length, who: lane.technician_id })}
          >
            Send what is placed
          </button>
        </>
      )}
    </div>
  );
}
