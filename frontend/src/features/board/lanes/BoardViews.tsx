import { isoDay } from '@/shared/time';
import type { Ghosts } from '@/features/scheduling';
import { MonthView } from '../list/MonthView';
import { VisitList } from '../list/VisitList';
import { BoardMap } from '../map/BoardMap';
import type { BacklogVisit, Board } from '../model';
import type { BoardSearch, WaitingSearch } from '../search';
import { laneAim } from './interaction';
import { Lanes } from './Lanes';
import type { Going } from './useGoing';
import type { Holding } from './useHolding';
import type { ShownDays } from './useShownDays';

interface Props {
  board: Board;
  day: string;
  search: BoardSearch;
  days: ShownDays;
  holding: Holding;
  going: Going;
  now: number;
  canPlan: boolean;
  ghosts: Ghosts | null;
  chosen: ReadonlySet<number>;
  onChoose: (ids: number[], on: boolean) => void;
  waiting: WaitingSearch;
  open: BacklogVisit[];
  scroller: HTMLDivElement | null;
  onScroller: (element: HTMLDivElement | null) => void;
}

/** The days as lines, on the map, as a list, or as a month. */
export function BoardViews(props: Props) {
  const { board, day, search, days, going, chosen, onChoose } = props;
  const view = search.view ?? 'lanes';
  return (
    <>
      {(view === 'lanes' || view === 'both') && <AsLines {...props} />}
      {(view === 'map' || view === 'both') && <OnMap {...props} />}
      {view === 'list' && (
        <div className="min-w-0 flex-1">
          <VisitList
            board={board}
            search={going.list}
            change={going.onList}
            selectedId={days.selectedId}
            chosen={chosen}
            onVisit={going.onVisit}
            onChoose={onChoose}
          />
        </div>
      )}
      {view === 'month' && (
        <div className="min-w-0 flex-1">
          <MonthView day={day} onDay={going.onMonthDay} />
        </div>
      )}
    </>
  );
}

function AsLines({ days, holding, going, now, canPlan, ghosts, chosen, scroller, onScroller }: Props) {
  const { aim, placing, state } = holding;
  return (
    <div
      ref={onScroller}
      className="min-w-0 flex-1 overflow-auto"
      data-testid="board"
      onPointerDown={holding.ground}
    >
      <Lanes
        scroller={scroller}
        rows={days.rows}
        visitsOf={days.visitsOf}
        axis={days.axis}
        headWidth={days.headWidth}
        column={days.column}
        now={now}
        holidays={days.holidays}
        drawing={days.drawing}
        selectedId={days.selectedId}
        chosen={chosen}
        liftedId={holding.liftedId}
        aimedId={placing?.technicianId ?? (aim?.kind === 'head' ? aim.technicianId : null)}
        aimedMates={laneAim(state)?.mates?.join() ?? ''}
        preview={holding.preview}
        ghosts={ghosts}
        aimedDay={aim?.kind === 'day' ? aim.day : null}
        fits={holding.fits}
        marks={holding.held ? (holding.marks.data?.starts ?? null) : null}
        onPress={holding.press}
        onKey={holding.key}
        onDay={going.onOpenDay}
        onPerson={going.onPerson}
        onPlan={canPlan ? going.onPlan : undefined}
      />
    </div>
  );
}

function OnMap({ board, day, search, days, holding, going, now, ghosts, waiting, open }: Props) {
  const { selected } = days;
  return (
    <div className="min-w-0 flex-1 border-l border-hairline">
      <BoardMap
        board={board}
        day={selected?.start ? isoDay(selected.start) : day}
        visitsOf={days.visitsOf}
        waitingVisits={open}
        waiting={waiting}
        selected={selected}
        selectedId={days.selectedId}
        personId={search.person ?? null}
        gap={search.gap ?? null}
        ghosts={ghosts}
        lookedAt={holding.here?.technicianId ?? null}
        drawing={days.drawing}
        now={now}
        onPress={holding.press}
        onVisit={going.onVisit}
        onPerson={going.onPerson}
        onWaiting={going.onNear}
      />
    </div>
  );
}
