import type {
  SchemaBacklogVisitOut,
  SchemaBoardOut,
  SchemaBoardVisitOut,
  SchemaFindingOut,
  SchemaLaneDayOut,
  SchemaLaneHeadOut,
  SchemaLaneOut,
  SchemaTimetableOut,
  SchemaVisitOut,
} from '@/api/types';

export type Lane = SchemaLaneHeadOut & Pick<SchemaLaneOut, 'days'>;
export type LaneDay = SchemaLaneDayOut;
export type BoardVisit = SchemaBoardVisitOut;
export type BacklogVisit = SchemaBacklogVisitOut;
export type AnyVisit = SchemaVisitOut;
export type Finding = SchemaFindingOut;
export type Timetable = SchemaTimetableOut;

/** What the board shows: days from `day` on, put together from what was fetched. */
export interface Board {
  day: string;
  days: { day: string; start: number; end: number }[];
  start: number;
  end: number;
  now: number;
  lanes: Lane[];
  visits: BoardVisit[];
  /** The limits that do not hold, each once: every count of them counts these. */
  findings: Finding[];
  /** The parts it was put together from. */
  chunks: SchemaBoardOut[];
}

const UNKNOWN_LENGTH = 3600;

export const lengthOf = (visit: AnyVisit) => visit.duration_seconds ?? UNKNOWN_LENGTH;

/** When a visit is shown: as expected by the evaluator, or as planned. */
export function shownSpan(visit: BoardVisit): { start: number; end: number } {
  const start = visit.expected_start ?? visit.start ?? 0;
  return { start, end: visit.expected_end ?? start + lengthOf(visit) };
}

export const GROUPS = [
  { key: 'nobody', title: 'Promised, nobody assigned', short: 'Promised' },
  { key: 'declined', title: 'Declined', short: 'Declined' },
  { key: 'overdue', title: 'Overdue', short: 'Overdue' },
  { key: 'no duration', title: 'No duration yet', short: 'No duration' },
  { key: 'standby', title: 'Would come forward', short: 'Standby' },
  { key: 'unplaced', title: 'Not placed', short: 'Not placed' },
] as const;

/** The backlog by its loudest reason; each visit once. */
export function grouped(visits: BacklogVisit[]) {
  return GROUPS.map(({ key, title, short }) => ({
    key,
    title,
    short,
    visits: visits.filter((visit) => GROUPS.find((group) => visit.reasons.includes(group.key))?.key === key),
  })).filter((group) => group.visits.length > 0);
}

/** Counts that a dispatcher wants at a glance. */
export function summary(board: Board) {
  return {
    visits: board.visits.length,
    unsent: board.visits.filter((visit) => visit.state === 'placed').length,
  };
}

/** How full the days are, as the server counts it. Null when nobody is to work. */
export function load(lane: Lane): Load | null {
  let [hours, free, drive, work, overtime] = [0, 0, 0, 0, 0];
  for (const row of lane.days) {
    hours += row.workload.working;
    free += row.workload.left;
    drive += row.timetable.drive_seconds;
    work += row.timetable.work_seconds;
    if (row.timetable.overtime) overtime += row.timetable.overtime.end - row.timetable.overtime.start;
  }
  if (!hours) return null;
  const busy = drive + work;
  return {
    share: busy / hours,
    driving: busy ? drive / busy : 0,
    planned: busy,
    free,
    overtime,
  };
}

export interface Load {
  share: number;
  /** Share of the planned time that is driving. */
  driving: number;
  planned: number;
  free: number;
  overtime: number;
}

export const timetableOn = (lane: Lane | undefined, moment: number | null) =>
  moment === null ? undefined : lane?.days.find((row) => moment >= row.start && moment < row.end)?.timetable;

export const brokenOf = (lane: Lane | undefined) => lane?.days.flatMap((row) => row.timetable.broken) ?? [];

/** What is wrong with a visit where it stands: a limit, or a part that is not on the van. */
export interface Broken {
  limits: boolean;
  parts: boolean;
  sentences: readonly string[];
}

export const NOTHING_BROKEN: Broken = { limits: false, parts: false, sentences: [] };

export function brokenByVisit(lane: Lane): Map<number, Broken> {
  const found = new Map<number, Broken>();
  for (const { visit_id: visit, limit, sentence } of brokenOf(lane)) {
    if (visit === null) continue;
    const { limits, parts, sentences } = found.get(visit) ?? NOTHING_BROKEN;
    const part = limit === 'parts';
    found.set(visit, {
      limits: limits || !part,
      parts: parts || part,
      sentences: [...sentences, sentence],
    });
  }
  return found;
}

/** What visits will still take from a van, by part: what is done has taken its own. */
export function wantedParts(visits: readonly AnyVisit[], leadId: number): Map<string, number> {
  const wanted = new Map<string, number>();
  for (const visit of visits)
    if (visit.technician_id === leadId && !visit.over)
      for (const [part, quantity] of Object.entries(visit.takes))
        wanted.set(part, (wanted.get(part) ?? 0) + quantity);
  return wanted;
}

/** Level for each promise bracket of a lane, so that overlapping ones don't hide each other. */
export function bracketLevels(visits: BoardVisit[]): Map<number, number> {
  const ends: number[] = [];
  const levels = new Map<number, number>();
  const promised = visits.filter((visit) => visit.promise);
  promised.sort((a, b) => a.promise!.start - b.promise!.start || a.id - b.id);
  for (const visit of promised) {
    let level = ends.findIndex((end) => end <= visit.promise!.start);
    if (level < 0) level = ends.length;
    ends[level] = visit.promise!.end;
    levels.set(visit.id, level);
  }
  return levels;
}

/** How likely a promise is to be kept. Nothing that lies ahead is certain, either way. */
export function chanceWords(likelihood: number): string {
  if (likelihood > 0.99) return 'over 99 %';
  if (likelihood < 0.01) return 'under 1 %';
  return `${Math.round(likelihood * 100)} %`;
}
