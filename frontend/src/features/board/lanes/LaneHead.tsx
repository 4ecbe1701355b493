import { Route } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { Portrait } from '@/features/people';
import { length } from '@/shared/time';
import { brokenOf, load, type Lane } from '../model';
import { AboutLane } from '../person/AboutLane';

interface Props {
  lane: Lane;
  unfit: string[] | null;
  /** With skills and areas beside it. */
  wide: boolean;
  onPerson: (technicianId: number) => void;
  onPlan: ((technicianId: number) => void) | undefined;
}

const REST_MILLISECONDS = 350;

/** Who a line belongs to: how full the days are at a glance, more on hover or focus, everything on a click. */
export function LaneHead({ lane, unfit, wide, onPerson, onPlan }: Props) {
  const button = useRef<HTMLButtonElement>(null);
  const [near, setNear] = useState(false);
  const rest = useRef<ReturnType<typeof setTimeout>>(undefined);
  const leave = () => {
    clearTimeout(rest.current);
    setNear(false);
  };
  useEffect(() => () => clearTimeout(rest.current), []);
  return (
    <div
      data-head={lane.technician_id}
      onPointerEnter={() => {
        rest.current = setTimeout(() => setNear(true), REST_MILLISECONDS);
      }}
      onPointerLeave={leave}
      className="w-(--head) min-w-(--head) group sticky left-0 z-20 flex items-center border-r border-hairline bg-paper"
    >
      <button
        ref={button}
        type="button"
        className="flex h-full min-w-0 flex-1 items-center gap-2 px-2 text-left"
        onClick={() => {
          leave();
          onPerson(lane.technician_id);
        }}
        onFocus={(event) => event.currentTarget.matches(':focus-visible') && setNear(true)}
        onBlur={leave}
      >
        <Portrait technicianId={lane.technician_id} size={32} />
        <span className="min-w-0 flex-1">
          <span className="block truncate text-sm leading-tight font-semibold">{lane.name}</span>
          {unfit?.length ? (
            <span className="block truncate text-xs text-bad">{unfit[0]}</span>
          ) : (
            <Fullness lane={lane} />
          )}
        </span>
        {wide && <Able lane={lane} />}
      </button>
      {near && <Card button={button} lane={lane} />}
      {onPlan && lane.days.some((day) => day.shift) && <PlanButton lane={lane} onPlan={onPlan} />}
    </div>
  );
}

/** Made for a head that somebody comes near: hundreds scroll by. */
const Card = ({ button, lane }: { button: RefObject<HTMLButtonElement | null>; lane: Lane }) => (
  <Popover.Root open>
    <Popover.Anchor virtualRef={button as RefObject<HTMLButtonElement>} />
    <Popover.Portal>
      <Popover.Content
        side="right"
        align="start"
        sideOffset={4}
        collisionPadding={8}
        onOpenAutoFocus={(event) => event.preventDefault()}
        onCloseAutoFocus={(event) => event.preventDefault()}
        className="pointer-events-none z-40 w-80 rounded-sm border border-ink bg-sheet p-3 text-sm"
      >
        <p className="mb-1 font-semibold">{lane.name}</p>
        <AboutLane lane={lane} />
        <p className="mt-2 text-xs text-ink-soft">Click or Enter: papers, directions, reminders, absences</p>
      </Popover.Content>
    </Popover.Portal>
  </Popover.Root>
);

const PlanButton = ({ lane, onPlan }: { lane: Lane; onPlan: (technicianId: number) => void }) => (
  <button
    type="button"
    className="absolute right-1 rounded-sm border border-hairline bg-sheet p-1 opacity-0 group-hover:opacity-100 focus:opacity-100"
    aria-label={`Plan the day of ${lane.name}`}
    title="Put this day in order, or fill it"
    onClick={() => onPlan(lane.technician_id)}
  >
    <Route size={14} aria-hidden />
  </button>
);

/** What somebody can do and where, as far as there is room. */
function Able({ lane }: { lane: Lane }) {
  const skills = Object.entries(lane.skills).map(([skill, level]) => `${skill} ${level}`);
  return (
    <span className="w-[132px] shrink-0 self-center text-[11px] leading-tight text-ink-soft">
      <span className="line-clamp-2">{skills.join(', ') || 'no skill'}</span>
      <span className="block truncate text-ink">{lane.areas.join(', ') || 'every area'}</span>
    </span>
  );
}

function Fullness({ lane }: { lane: Lane }) {
  const full = load(lane);
  const tight = brokenOf(lane).some((row) => row.visit_id === null);
  if (!full)
    return (
      <span className="block text-xs text-ink-soft">
        {lane.days.length === 0 ? 'fetching…' : lane.days.some((day) => day.shift) ? 'absent' : 'no shift'}
      </span>
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
        {full.overtime > 0 ? `${length(full.overtime)} over` : `${length(full.free)} free`} ·{' '}
        <span className="figures">{Math.round(full.driving * 100)}</span> % road
      </span>
    </>
  );
}
