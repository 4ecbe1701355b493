import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { SlidersHorizontal } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Lamp } from '@/design/Lamp';
import { Notice } from '@/design/Notice';
import { clockTime, dayName, length, window_ } from '@/shared/time';
import { grouped, type BacklogVisit } from '../model';
import { backlogQuery } from '../queries';
import type { WaitingSearch } from '../search';
import { BacklogFilters, filtersSet } from './BacklogFilters';
import { FilterWords } from './FilterWords';

interface Props {
  day: string;
  text: string;
  waiting: WaitingSearch;
  /** The visit from which distance is counted: the selected one. */
  near: { lon: number; lat: number; label: string } | null;
  selectedId: number | null;
  chosen: ReadonlySet<number>;
  liftedId: number | null;
  aimed: boolean;
  onText: (text: string) => void;
  onWaiting: (waiting: WaitingSearch) => void;
  onPress: (event: PointerEvent<HTMLElement>, visit: BacklogVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: BacklogVisit) => void;
}

type Line =
  | { kind: 'heading'; key: string; title: string; loud: boolean }
  | { kind: 'visit'; key: string; visit: BacklogVisit };

const ROW_HEIGHT = 68;
const HEADING_HEIGHT = 24;

/** Work that is not placed, split by what is wrong with it, the loudest reason first. */
export const Backlog = memo(function Backlog(props: Props) {
  const { text, waiting, aimed, onWaiting } = props;
  const [filtering, setFiltering] = useState(false);
  const backlog = useQuery(backlogQuery(text, waiting));
  const { total = 0, visits = NONE } = backlog.data ?? {};
  const groups = useMemo(() => grouped(visits), [visits]);
  const lines = useMemo(() => linesOf(groups, waiting.reason), [groups, waiting.reason]);
  const narrowed = text !== '' || filtersSet(waiting) > 0;
  return (
    <section
      data-backlog
      aria-label="Backlog"
      className={`flex min-h-0 flex-1 flex-col ${aimed ? 'bg-copper-wash' : ''}`}
    >
      <div className="border-b border-hairline p-2">
        <div className="flex items-baseline justify-between">
          <h2 className="font-semibold">Backlog</h2>
          <span className="text-xs text-ink-soft">
            {narrowed ? `${visits.length} of ${total} open` : `${total} open`}
          </span>
        </div>
        <div className="mt-1 flex gap-1">
          <Typed text={text} onText={props.onText} />
          <Button
            icon={<SlidersHorizontal size={15} />}
            aria-expanded={filtering}
            aria-pressed={filtersSet(waiting) > 0}
            onClick={() => setFiltering(!filtering)}
          >
            {filtersSet(waiting) > 0 ? `Filter · ${filtersSet(waiting)}` : 'Filter'}
          </Button>
        </div>
        {narrowed && <FilterWords waiting={waiting} onChange={onWaiting} />}
        <Splits
          groups={groups}
          chosen={waiting.reason}
          onChoose={(reason) => onWaiting({ ...waiting, reason })}
        />
      </div>
      {filtering && (
        <BacklogFilters
          waiting={waiting}
          near={props.near}
          onChange={onWaiting}
          onClose={() => setFiltering(false)}
        />
      )}
      {backlog.isError && <Notice tone="bad">{sentenceOf(backlog.error)}</Notice>}
      {backlog.data && visits.length === 0 && (
        <p className="p-4 text-sm text-ink-soft">
          {narrowed ? 'No open visit matches.' : 'Nothing is waiting. Everything has its place.'}
        </p>
      )}
      <Waiting lines={lines} {...props} />
    </section>
  );
});

function linesOf(groups: ReturnType<typeof grouped>, reason: string | undefined): Line[] {
  return groups
    .filter((group) => !reason || group.key === reason)
    .flatMap((group): Line[] => [
      {
        kind: 'heading',
        key: group.key,
        title: `${group.title} · ${group.visits.length}`,
        loud: group.key === 'nobody',
      },
      ...group.visits.map((visit): Line => ({ kind: 'visit', key: `${visit.id}`, visit })),
    ]);
}

const NONE: BacklogVisit[] = [];

function Typed({ text, onText }: Pick<Props, 'text' | 'onText'>) {
  const [typed, setTyped] = useState(text);
  const latest = useRef({ text, onText });
  useEffect(() => {
    latest.current = { text, onText };
  });
  useEffect(() => {
    const timer = setTimeout(() => {
      // Only what is new is told: telling goes to an address, and would call back who is on the way to another.
      if (typed.trim() !== latest.current.text) latest.current.onText(typed.trim());
    }, 200);
    return () => clearTimeout(timer);
  }, [typed]);
  return (
    <input
      id="backlog-search"
      type="search"
      aria-label="Search the backlog"
      placeholder="Order, customer, site, area…"
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      className="min-w-0 flex-1 rounded-sm border border-hairline bg-sheet px-2 py-1"
    />
  );
}

interface SplitsProps {
  groups: ReturnType<typeof grouped>;
  chosen: string | undefined;
  onChoose: (reason: string | undefined) => void;
}

/** What is wrong, with how many; one of them shows only its own. */
function Splits({ groups, chosen, onChoose }: SplitsProps) {
  return (
    <div className="mt-1.5 flex flex-wrap gap-1" role="group" aria-label="What is wrong">
      {groups.map((group) => {
        const on = chosen === group.key;
        const look = on
          ? 'border-copper bg-copper-wash font-semibold'
          : group.key === 'nobody'
            ? 'border-bad text-bad font-semibold'
            : 'border-hairline text-ink-soft';
        return (
          <button
            key={group.key}
            type="button"
            aria-pressed={on}
            className={`rounded-sm border px-1.5 text-xs leading-5 hover:bg-wash ${look}`}
            onClick={() => onChoose(on ? undefined : group.key)}
          >
            {group.short} <span className="figures">{group.visits.length}</span>
          </button>
        );
      })}
    </div>
  );
}

/** Only what is on screen is drawn: thousands scroll. */
function Waiting({ lines, ...props }: Props & { lines: Line[] }) {
  const scroller = useRef<HTMLDivElement>(null);
  // Its functions change with what is scrolled to.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => (lines[index]?.kind === 'heading' ? HEADING_HEIGHT : ROW_HEIGHT),
    getItemKey: (index) => lines[index]?.key ?? index,
    overscan: 6,
  });
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
      <ul className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const line = lines[item.index]!;
          return (
            <li
              key={item.key}
              className="absolute inset-x-0 top-0"
              style={{ height: item.size, transform: `translateY(${item.start}px)` }}
            >
              {line.kind === 'heading' ? (
                <h3
                  className={`h-full px-2 py-1 text-xs font-semibold ${line.loud ? 'bg-bad text-sheet' : 'bg-wash'}`}
                >
                  {line.title}
                </h3>
              ) : (
                <BacklogRow visit={line.visit} {...props} />
              )}
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function BacklogRow({
  visit,
  day,
  selectedId,
  chosen,
  liftedId,
  onPress,
  onKey,
}: Props & { visit: BacklogVisit }) {
  const facts = [
    visit.start === null ? null : `now ${dayName(visit.start)} ${clockTime(visit.start)}`,
    visit.duration_seconds ? length(visit.duration_seconds) : 'length unknown',
    visit.area ?? 'outside every area',
    visit.due ? `due ${dayName(visit.due)}` : null,
  ].filter(Boolean);
  const loud = visit.promise !== null && visit.technician_id === null;
  const ring = chosen.has(visit.id) ? 'ring-2 ring-inset ring-focus' : '';
  return (
    <button
      type="button"
      data-visit={visit.id}
      aria-pressed={visit.id === selectedId || chosen.has(visit.id)}
      onPointerDown={(event) => onPress(event, visit)}
      onKeyDown={(event) => onKey(event, visit)}
      className={`block h-full w-full touch-pan-y border-b border-hairline px-2 py-1.5 text-left hover:bg-wash ${ring} ${visit.id === selectedId ? 'bg-copper-wash' : ''} ${visit.id === liftedId ? 'opacity-40' : ''}`}
    >
      <span className="flex items-center gap-1.5">
        {loud && <Lamp lamp="broken" />}
        <span className="min-w-0 flex-1 truncate font-semibold">{visit.title}</span>
        <span className="figures text-xs text-ink-soft" title={`priority ${visit.priority} of 5`}>
          P{visit.priority}
        </span>
      </span>
      <span className="block truncate text-sm">{visit.site}</span>
      <span className="block truncate text-xs text-ink-soft">
        {visit.promise && <b className={loud ? 'text-bad' : ''}>{window_(visit.promise, day)} · </b>}
        {facts.join(' · ')}
      </span>
    </button>
  );
}
