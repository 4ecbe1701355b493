import { describe, expect, it } from 'vitest';
import {
  axisOf,
  bracketLevels,
  grouped,
  load,
  momentAt,
  summary,
  xOf,
  type BacklogVisit,
  type Board,
  type BoardVisit,
  type Lane,
} from '@/features/planning/model';

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
const lane = (more: Partial<Lane> = {}) =>
  ({
    technician_id: 1,
    shift: { start: at(8), end: at(16), last_end: at(17) },
    timetable: { stretches: [], broken: [], overtime: null, drive_seconds: 0, work_seconds: 0, ends: null },
    ...more,
  }) as Lane;
const board = (lanes: Lane[], visits: BoardVisit[] = []) =>
  ({ day: '2026-11-23', start: MIDNIGHT, end: at(24), now: at(10), lanes, visits }) as Board;

describe('the axis', () => {
  it('runs on whole hours around the shifts and fits the width', () => {
    const axis = axisOf(board([lane()]), 850, 1);
    expect([axis.start, axis.end]).toEqual([at(8), at(16.5)]);
    expect(axis.pixelsPerHour).toBe(100);
  });

  it('reaches to work outside the shift', () => {
    const early = {
      kind: 'work',
      start: at(6.5),
      end: at(7),
      visit_id: 1,
      metres: 0,
      estimated: false,
    } as const;
    const timetable = { ...lane().timetable, stretches: [early] };
    expect(axisOf(board([lane({ timetable })]), 800, 1).start).toBe(at(6));
  });

  it('has a day to show when nobody works', () => {
    const axis = axisOf(board([lane({ shift: null })]), 800, 1);
    expect(axis.end).toBeGreaterThan(axis.start);
  });

  it('turns pixels into moments and back, snapped to five minutes', () => {
    const axis = { start: at(8), end: at(16), pixelsPerHour: 60 };
    expect(momentAt(axis, xOf(axis, at(9.25)))).toBe(at(9.25));
    expect(momentAt(axis, 61)).toBe(at(9));
    expect(momentAt(axis, 64)).toBe(at(9) + 300);
  });
});

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
    const timetable = { ...lane().timetable, drive_seconds: HOUR, work_seconds: 3 * HOUR };
    expect(load(lane({ timetable }))).toEqual({ share: 0.5, driving: 0.25 });
    expect(load(lane({ shift: null }))).toBeNull();
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
  expect(summary(board([lane()], rows))).toEqual({ visits: 3, unsent: 2, watch: 1, broken: 1 });
});
