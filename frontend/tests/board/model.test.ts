import { describe, expect, it } from 'vitest';
import {
  bracketLevels,
  grouped,
  load,
  summary,
  type BacklogVisit,
  type Board,
  type BoardVisit,
  type Lane,
  type LaneDay,
} from '@/features/board/model';

const MIDNIGHT = 1_795_395_600;
const HOUR = 3600;
const at = (hours: number) => MIDNIGHT + hours * HOUR;

const visit = (id: number, more: Partial<BoardVisit> = {}) =>
  ({
    id,
    state: 'placed',
    lamp: 'dark',
    likelihood: null,
    promise: null,
    technician_id: 1,
    start: at(9),
    ...more,
  }) as BoardVisit;
const day = (more: Partial<LaneDay> = {}) =>
  ({
    day: '2026-11-23',
    start: MIDNIGHT,
    end: at(24),
    shift: { start: at(8), end: at(16), gap: null, on_call: null },
    absences: [],
    timetable: { stretches: [], broken: [], overtime: null, drive_seconds: 0, work_seconds: 0, ends: null },
    workload: { working: 8 * HOUR, left: 8 * HOUR, share: 0, gaps: [] },
    ...more,
  }) as LaneDay;
const OFF = { shift: null, workload: { working: 0, left: 0, share: 0, gaps: [] } };
const lane = (...days: LaneDay[]) => ({ technician_id: 1, days: days.length ? days : [day()] }) as Lane;
const board = (lanes: Lane[], visits: BoardVisit[] = []) =>
  ({ day: '2026-11-23', start: MIDNIGHT, end: at(24), now: at(10), lanes, visits }) as unknown as Board;

describe('the backlog', () => {
  it('shows each visit once, under its loudest reason', () => {
    const rows = [
      { id: 1, reasons: ['unplaced'] },
      { id: 2, reasons: ['nobody', 'overdue'] },
      { id: 3, reasons: ['no duration'] },
      { id: 4, reasons: ['overdue', 'no duration'] },
    ] as BacklogVisit[];
    expect(grouped(rows).map((group) => [group.key, group.visits.map((row) => row.id)])).toEqual([
      ['nobody', [2]],
      ['overdue', [4]],
      ['no duration', [3]],
      ['unplaced', [1]],
    ]);
  });
});

describe('a lane', () => {
  it('says how full the day is and how much of it is driving', () => {
    const timetable = { ...day().timetable, drive_seconds: HOUR, work_seconds: 3 * HOUR };
    const workload = { ...day().workload, left: 3.5 * HOUR };
    expect(load(lane(day({ timetable, workload })))).toEqual({
      share: 0.5,
      driving: 0.25,
      planned: 4 * HOUR,
      free: 3.5 * HOUR,
      overtime: 0,
    });
    expect(load(lane(day(OFF)))).toBeNull();
  });

  it('counts all days that are shown, those without a shift for nothing', () => {
    const timetable = { ...day().timetable, work_seconds: 4 * HOUR };
    const found = load(lane(day({ timetable }), day(), day(OFF)));
    expect([found?.share, found?.free]).toEqual([0.25, 16 * HOUR]);
  });

  it('puts overlapping promises on levels of their own', () => {
    const rows = [
      visit(1, { promise: { start: at(8), end: at(12) } }),
      visit(2, { promise: { start: at(10), end: at(12) } }),
      visit(3, { promise: { start: at(12), end: at(14) } }),
      visit(4),
    ];
    expect([...bracketLevels(rows)]).toEqual([
      [1, 0],
      [2, 1],
      [3, 0],
    ]);
  });
});

it('counts what a dispatcher wants at a glance', () => {
  const rows = [visit(1), visit(2, { lamp: 'broken', state: 'sent' }), visit(3, { lamp: 'watch' })];
  expect(summary(board([lane()], rows))).toEqual({ visits: 3, unsent: 2 });
});
