import { describe, expect, it } from 'vitest';
import { together, totalsOf } from '@/features/board/list/loads';
import {
  driving,
  inGroups,
  placesInDay,
  proposedTours,
  roundLines,
  ROUNDS_AT_ONCE,
  tourLines,
} from '@/features/board/map/rounds';
import type { Board, BoardVisit } from '@/features/board/model';
import type { Ghosts } from '@/features/scheduling/runs/ghosts';

const leg = (seconds: number, ...xs: number[]) => ({ seconds, points: xs.map((x) => [x, 0]) });
const round = (technician_id: number, ...legs: ReturnType<typeof leg>[]) => ({ technician_id, legs });
const visit = (id: number, technician_id: number, start: number, more = {}) =>
  ({ id, technician_id, start, lon: id, lat: 0, ...more }) as BoardVisit;

describe('rounds on the map', () => {
  it('are asked for in groups, the last one as small as it comes', () => {
    const ids = Array.from({ length: 2 * ROUNDS_AT_ONCE + 1 }, (_, index) => index + 1);
    const groups = inGroups(ids);
    expect(groups.map((group) => group.length)).toEqual([ROUNDS_AT_ONCE, ROUNDS_AT_ONCE, 1]);
    expect(groups.flat()).toEqual(ids);
    expect(inGroups([])).toEqual([]);
  });

  it('are a line per drive with its minutes, strong for the one looked at', () => {
    const lines = roundLines([round(1, leg(610, 0, 1, 2)), round(2, leg(90, 5, 6))], 2);
    expect(lines.map(({ id, strong, label }) => [id, strong, label])).toEqual([
      [1, false, '10'],
      [2, true, '2'],
    ]);
  });

  it('have no line for a drive to where one is already', () => {
    expect(roundLines([round(1, leg(0, 3))], null)).toEqual([]);
  });

  it('say how much is driven', () => {
    const rounds = [round(1, leg(600, 0, 1), leg(330, 1, 0))];
    expect(driving(rounds, 1)).toEqual({ minutes: 16, drives: 2 });
    expect(driving(rounds, 2)).toBeNull();
  });
});

describe('the place of a visit in its day', () => {
  const day = { start: 100, end: 200 };

  it('counts those of that day alone', () => {
    const visits = new Map([[1, [visit(1, 1, 50), visit(2, 1, 110), visit(3, 1, 150), visit(4, 1, 200)]]]);
    expect([...placesInDay(visits, day)]).toEqual([
      [2, 1],
      [3, 2],
    ]);
  });

  it('is the one on the day of whoever leads', () => {
    const shared = visit(9, 1, 150, { mates: [2] });
    const visits = new Map([
      [1, [visit(1, 1, 110), visit(2, 1, 120), shared]],
      [2, [shared]],
    ]);
    expect(placesInDay(visits, day).get(9)).toBe(3);
  });
});

describe('rounds that a proposal changes', () => {
  const board = { start: 0, end: 1000 } as Board;
  const place = (technician_id: number, start: number) => ({
    technician_id,
    technician: 'x',
    day: '2026-11-24',
    start,
  });
  const change = { visit_id: 3, before: [], after: [place(1, 300)], lon: 3, lat: 0 };
  const ghosts = { to: new Map(), leaving: new Set(), changes: [change] } as unknown as Ghosts;
  const visits = new Map([[1, [visit(1, 1, 100), visit(2, 1, 500)]]]);

  it('are drawn as they are and as they would be', () => {
    const tours = proposedTours(ghosts, board, visits, null);
    expect(tours.map(({ look, points }) => [look, points.map(([lon]) => lon)])).toEqual([
      ['before', [1, 2]],
      ['after', [1, 3, 2]],
    ]);
  });

  it('are those of one technician when only that one is looked at', () => {
    expect(proposedTours(ghosts, board, visits, 2)).toEqual([]);
    expect(proposedTours(ghosts, board, visits, 1)).toHaveLength(2);
  });

  it('leave out what is no way: a single place', () => {
    const alone = new Map([[1, [visit(1, 1, 100)]]]);
    expect(proposedTours(ghosts, board, alone, null).map((tour) => tour.look)).toEqual(['after']);
  });

  it('are straight until their roads are known', () => {
    const tours = proposedTours(ghosts, board, visits, null);
    const along = [[0, 0]];
    expect(tourLines(tours, undefined)[0]!.points).toEqual(tours[0]!.points);
    const lines = tourLines(tours, [{ points: along }]);
    expect(lines[0]!.points).toEqual(along);
    expect(lines[1]!.points).toEqual(tours[1]!.points);
  });
});

describe('weeks ahead', () => {
  const day = (date: string, working: number, work: number, drive: number, overtime = 0) => ({
    date,
    working,
    left: Math.max(0, working - work - drive),
    work,
    drive,
    overtime,
    visits: work ? 1 : 0,
    share: working ? (work + drive) / working : 0,
  });
  const lane = (technician_id: number, ...days: ReturnType<typeof day>[]) => ({
    technician_id,
    name: `t${technician_id}`,
    days,
  });
  const part = (data: ReturnType<typeof lane>[] | undefined, error: unknown = null) => ({
    data,
    error,
    refetch: () => undefined,
  });

  it('add up everybody, by day', () => {
    const lanes = [
      lane(1, day('2026-11-27', 100, 40, 10), day('2026-11-28', 0, 0, 0)),
      lane(2, day('2026-11-27', 100, 60, 20, 5), day('2026-11-28', 0, 30, 0)),
    ];
    const [friday, saturday] = totalsOf(['2026-11-27', '2026-11-28'], lanes);
    expect(friday).toMatchObject({ working: 200, work: 100, drive: 30, overtime: 5, visits: 2, share: 0.65 });
    // Somebody works without a shift: more than full.
    expect(saturday).toMatchObject({ working: 0, work: 30, share: 1 });
  });

  it('are complete when every part is there', () => {
    expect(together([]).complete).toBe(false);
    expect(together([part([lane(1)]), part(undefined)]).complete).toBe(false);
    const both = together([part([lane(1)]), part([lane(2)])]);
    expect(both.complete).toBe(true);
    expect(both.lanes.map((row) => row.technician_id)).toEqual([1, 2]);
  });

  it('show what is there and name the first error', () => {
    const found = together([part([lane(1)]), part(undefined, 'lost')]);
    expect(found.lanes).toHaveLength(1);
    expect(found.error).toBe('lost');
  });
});
