import type { ReactNode } from 'react';
import { Popover } from 'radix-ui';
import { Lamp } from '@/design/Lamp';
import { dayName, moment } from '@/shared/time';
import type { Board, BoardVisit, Finding } from '../model';

interface Props {
  board: Board;
  onVisit: (id: number) => void;
}

/** How many promises of the days shown are tight; opened, which, each leading to its visit. */
export function TightCount({ board, onVisit }: Props) {
  const visits = board.visits.filter((visit) => visit.lamp === 'watch');
  return (
    <Counted sign={<Lamp lamp="watch" />} count={visits.length} words="tight">
      {visits.map((visit) => (
        <Row key={visit.id} onOpen={() => onVisit(visit.id)} {...ofVisit(board, visit)} />
      ))}
    </Counted>
  );
}

/** How many limits do not hold on the days shown, promises among them; opened, which, each leading to its visit. */
export function BrokenCount({
  board,
  onVisit,
  onPerson,
}: Props & { onPerson: (technicianId: number) => void }) {
  const promises = board.visits.filter((visit) => visit.lamp === 'broken').length;
  const sign =
    promises || board.findings.length === 0 ? (
      <Lamp lamp={promises ? 'broken' : 'dark'} />
    ) : (
      <b aria-hidden className="text-warn">
        !
      </b>
    );
  return (
    <Counted sign={sign} count={board.findings.length} words="broken">
      {byPlace(board).map(({ key, visit, rows }) => (
        <Row
          key={key}
          onOpen={() => (visit ? onVisit(visit.id) : onPerson(rows[0]!.technician_id))}
          lamp={visit?.lamp === 'broken'}
          {...(visit ? ofVisit(board, visit) : ofDay(board, rows[0]!))}
          sentences={rows.map((row) => row.sentence)}
        />
      ))}
    </Counted>
  );
}

interface CountedProps {
  sign: ReactNode;
  count: number;
  words: string;
  children: ReactNode;
}

function Counted({ sign, count, words, children }: CountedProps) {
  const label = (
    <>
      {sign} <b className="figures text-ink">{count}</b> {words}
    </>
  );
  if (count === 0) return <span className="flex items-center gap-1">{label}</span>;
  return (
    <Popover.Root>
      <Popover.Trigger
        className="flex min-h-8 items-center gap-1 rounded-sm px-1 hover:bg-wash"
        title="Which?"
      >
        {label}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label={`${count} ${words}`}
          className="z-40 max-h-[70vh] w-96 overflow-y-auto border border-ink bg-sheet p-2 text-sm text-ink"
        >
          <ul className="divide-y divide-hairline">{children}</ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface RowProps {
  onOpen: () => void;
  title: string;
  rest: string;
  where: string;
  lamp?: boolean;
  sentences?: string[];
}

function Row({ onOpen, title, rest, where, lamp, sentences }: RowProps) {
  return (
    <li>
      <Popover.Close className="block w-full px-1 py-1 text-left hover:bg-wash" onClick={onOpen}>
        {lamp && (
          <span className="mr-1 inline-block align-middle">
            <Lamp lamp="broken" />
          </span>
        )}
        <b className="font-semibold">{title}</b> {rest}
        <span className="block text-ink-soft">{where}</span>
        {sentences?.map((sentence) => (
          <span key={sentence} className="block">
            {sentence}
          </span>
        ))}
      </Popover.Close>
    </li>
  );
}

const nameOf = (board: Board, id: number | null) =>
  board.lanes.find((lane) => lane.technician_id === id)?.name ?? '';

const ofVisit = (board: Board, visit: BoardVisit) => ({
  title: visit.site,
  rest: visit.title,
  where: [nameOf(board, visit.technician_id), visit.start !== null && dayName(visit.start)]
    .filter(Boolean)
    .join(', '),
});

const ofDay = (board: Board, row: Finding) => ({
  title: nameOf(board, row.technician_id),
  rest: '',
  where: dayName(moment(row.day, 12 * 60)),
});

interface Place {
  key: string;
  visit: BoardVisit | undefined;
  rows: Finding[];
}

/** What is broken, put together by visit or by somebody's day; broken promises first. */
export function byPlace(board: Board): Place[] {
  const visits = new Map(board.visits.map((visit) => [visit.id, visit]));
  const places = new Map<string, Place>();
  for (const row of board.findings) {
    const visit = row.visit_id === null ? undefined : visits.get(row.visit_id);
    const key = visit ? `visit ${visit.id}` : `day ${row.technician_id} ${row.day}`;
    const known = places.get(key);
    if (known) known.rows.push(row);
    else places.set(key, { key, visit, rows: [row] });
  }
  const loud = (place: Place) => (place.visit?.lamp === 'broken' ? 0 : 1);
  return [...places.values()].sort((a, b) => loud(a) - loud(b));
}
