import { describe, expect, it } from 'vitest';
import { hueValue, huesOf } from '@/features/board/hues';
import type { BoardVisit, Lane } from '@/features/board/model';
import { rowsOf, slotsOf, type Row } from '@/features/board/rows';
import { freeStretches } from '@/features/board/gap/gaps';

const lane = (id: number, depot: string, areas: string[] = [], work = 0) =>
  ({
    technician_id: id,
    depot,
    areas,
    days: [
      {
        shift: { start: 0, end: 28_800 },
        absences: [],
        timetable: { drive_seconds: 0, work_seconds: work, overtime: null, stretches: [], broken: [] },
        workload: { working: 28_800, left: 28_800 - work, share: work / 28_800, gaps: [] },
      },
    ],
  }) as unknown as Lane;
const names = (rows: Row[]) =>
  rows.map((row) =>
    row.kind === 'lane' ? row.lane.technician_id : row.kind === 'crew' ? row.crew.name : row.title,
  );
const visit = (more: Partial<BoardVisit>) => ({ needs: {}, area: null, priority: 3, ...more }) as BoardVisit;
const plain = { group: 'none', sort: 'name', near: null } as const;

describe('lanes', () => {
  const lanes = [
    lane(1, 'North', ['Quay'], 7200),
    lane(2, 'South', ['Quay', 'Moor'], 3600),
    lane(3, 'North'),
  ];

  it('stand under their depot', () => {
    expect(names(rowsOf(lanes, new Map(), { ...plain, group: 'depot' }))).toEqual([
      'North · 2',
      1,
      3,
      'South · 1',
      2,
    ]);
  });

  it('stand under each of their areas', () => {
    expect(names(rowsOf(lanes, new Map(), { ...plain, group: 'area' }))).toEqual([
      'Moor · 1',
      2,
      'Quay · 2',
      1,
      2,
      'every area · 1',
      3,
    ]);
  });

  it('are sorted by the time that is left', () => {
    expect(names(rowsOf(lanes, new Map(), { ...plain, sort: 'free' }))).toEqual([3, 2, 1]);
  });

  it('are sorted by how near they come to a visit', () => {
    const visits = new Map([
      [1, [visit({ lon: 0, lat: 0 })]],
      [2, [visit({ lon: 0.1, lat: 0 })]],
    ]);
    expect(names(rowsOf(lanes, visits, { ...plain, sort: 'near', near: { lon: 0.09, lat: 0 } }))).toEqual([
      2, 1, 3,
    ]);
  });
});

describe('the hue', () => {
  it('is the same for the same value, and none when none is asked for', () => {
    const rows = [visit({ area: 'Quay' }), visit({ area: 'Moor' }), visit({ area: 'Quay' })];
    expect([...huesOf(rows, 'area')]).toEqual([
      ['Moor', 'var(--hue-1)'],
      ['Quay', 'var(--hue-2)'],
    ]);
    expect(huesOf(rows, 'none').size).toBe(0);
  });

  it('takes the skill that is asked for at the highest level', () => {
    expect(hueValue(visit({ needs: { Doors: 2, Rescue: 4 } }), 'skill')).toBe('Rescue');
    expect(hueValue(visit({}), 'skill')).toBe('no skill');
  });
});

it('lists what is worth filling of all lanes in order', () => {
  const [one, two] = [lane(1, 'North'), lane(2, 'North')];
  Object.assign(one.days[0]!.workload, { gaps: [{ start: 0, end: 3600 }] });
  Object.assign(two.days[0]!.workload, { gaps: [{ start: 7200, end: 10_800 }] });
  expect(freeStretches([one, two])).toEqual([
    { who: 1, start: 0, end: 3600 },
    { who: 2, start: 7200, end: 10_800 },
  ]);
});

describe('crews', () => {
  const lanes = [lane(1, 'North'), lane(2, 'North'), lane(3, 'South'), lane(4, 'South')];
  const shown = (crews: { id: number; name: string; members: number[] }[]) =>
    rowsOf(lanes, new Map(), { ...plain, group: 'crew', crews });

  it('stand above their members, who leads first, and those in none come last', () => {
    const rows = shown([{ id: 8, name: 'Riggers', members: [3, 1] }]);
    expect(names(rows)).toEqual(['Riggers', 3, 1, 'In no crew · 2', 2, 4]);
  });

  it('are left out when fewer than two of them are on the board', () => {
    expect(names(shown([{ id: 8, name: 'Gone', members: [3, 77] }]))).toEqual(['In no crew · 4', 1, 2, 3, 4]);
  });

  it('are placed on as one, each member by itself', () => {
    expect(slotsOf(shown([{ id: 8, name: 'Riggers', members: [3, 1] }])).slice(0, 3)).toEqual([
      { technicianId: 3, mates: [1] },
      { technicianId: 3 },
      { technicianId: 1 },
    ]);
  });
});
