import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { sentenceOf } from '@/api/client';
import { Lamp } from '@/design/Lamp';
import { Notice } from '@/design/Notice';
import { dayName, length, window_ } from '@/shared/time';
import { grouped, type BacklogVisit } from '../model';
import { backlogQuery } from '../queries';

interface Props {
  day: string;
  text: string;
  selectedId: number | null;
  liftedId: number | null;
  aimed: boolean;
  onText: (text: string) => void;
  onPress: (event: PointerEvent<HTMLElement>, visit: BacklogVisit) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, visit: BacklogVisit) => void;
}

/** Work that is not placed, the loudest reason first. */
export function Backlog(props: Props) {
  const { text, onText, aimed } = props;
  const [typed, setTyped] = useState(text);
  const latest = useRef(onText);
  useEffect(() => {
    latest.current = onText;
  });
  useEffect(() => {
    const timer = setTimeout(() => latest.current(typed.trim()), 200);
    return () => clearTimeout(timer);
  }, [typed]);
  const backlog = useQuery(backlogQuery(text));
  const { total = 0, visits = [] } = backlog.data ?? {};
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
            {visits.length < total ? `${visits.length} of ${total}: search to narrow it` : `${total} open`}
          </span>
        </div>
        <input
          id="backlog-search"
          type="search"
          aria-label="Search the backlog"
          placeholder="Order, customer, site, area…"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          className="mt-1 w-full rounded-sm border border-hairline bg-sheet px-2 py-1"
        />
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">
        {backlog.isError && <Notice tone="bad">{sentenceOf(backlog.error)}</Notice>}
        {backlog.data && visits.length === 0 && (
          <p className="p-4 text-sm text-ink-soft">
            {text ? `Nothing open matches “${text}”.` : 'Nothing is waiting. Everything has its place.'}
          </p>
        )}
        {grouped(visits).map((group) => (
          <div key={group.key}>
            <h3
              className={`sticky top-0 z-10 px-2 py-1 text-xs font-semibold ${group.key === 'nobody' ? 'bg-bad text-sheet' : 'bg-wash'}`}
            >
              {group.title} · {group.visits.length}
            </h3>
            <ul>
              {group.visits.map((visit) => (
                <BacklogRow key={visit.id} visit={visit} {...props} />
              ))}
            </ul>
          </div>
        ))}
      </div>
    </section>
  );
}

function BacklogRow({ visit, day, selectedId, liftedId, onPress, onKey }: Props & { visit: BacklogVisit }) {
  const facts = [
    visit.duration_seconds ? length(visit.duration_seconds) : 'length unknown',
    visit.area ?? 'outside every area',
    visit.due ? `due ${dayName(visit.due)}` : null,
  ].filter(Boolean);
  return (
    <li>
      <button
        type="button"
        data-visit={visit.id}
        aria-pressed={visit.id === selectedId}
        onPointerDown={(event) => onPress(event, visit)}
        onKeyDown={(event) => onKey(event, visit)}
        className={`block w-full touch-pan-y border-b border-hairline px-2 py-1.5 text-left hover:bg-wash ${visit.id === selectedId ? 'bg-copper-wash' : ''} ${visit.id === liftedId ? 'opacity-40' : ''}`}
      >
        <span className="flex items-center gap-1.5">
          {visit.promise && <Lamp lamp="broken" />}
          <span className="min-w-0 flex-1 truncate font-semibold">{visit.title}</span>
          <span className="figures text-xs text-ink-soft" title={`priority ${visit.priority} of 5`}>
            P{visit.priority}
          </span>
        </span>
        <span className="block truncate text-sm">{visit.site}</span>
        <span className="block truncate text-xs text-ink-soft">
          {visit.promise && <b className="text-bad">{window_(visit.promise, day)} · </b>}
          {facts.join(' · ')}
        </span>
      </button>
    </li>
  );
}
