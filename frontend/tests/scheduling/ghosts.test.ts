import { describe, expect, it } from 'vitest';
import type { SchemaRunDetailOut } from '@/api/types';
import type { BoardVisit } from '@/features/board/model';
import { ghostsOf, toursOf } from '@/features/scheduling/runs/ghosts';

const at = (technician_id: number, start: number) => ({
  technician_id,
  technician: 'x',
  day: '2026-11-24',
  start,
});
const change = (visit_id: number, before: object[], after: object[], more = {}) => ({
  visit_id,
  version: 1,
  kind: 'move',
  label: '',
  title: '',
  site: `site ${visit_id}`,
  reasons: [],
  taken: false,
  seconds: 1800,
  lon: visit_id,
  lat: 0,
  before,
  after,
  ...more,
});
const run = (changes: object[], accepted_at: number | null = null) =>
  ({ accepted_at, proposal: { changes } }) as unknown as SchemaRunDetailOut;
const standing = (id: number, start: number) => ({ id, start, lon: id, lat: 0 }) as BoardVisit;

const moved = change(1, [at(5, 100)], [at(6, 400)]);
const placed = change(2, [], [at(6, 200)], { seconds: null });

describe('a proposal on the board', () => {
  it('stands where it would put visits, and lifts those that leave', () => {
    const ghosts = ghostsOf(run([moved, placed]), new Set())!;
    expect(ghosts.to.get(6)!.map((row) => [row.visitId, row.start, row.end])).toEqual([
      [1, 400, 2200],
      [2, 200, 3800],
    ]);
    expect([...ghosts.leaving]).toEqual([1]);
  });

  it('leaves out what was unticked', () => {
    const ghosts = ghostsOf(run([moved, placed]), new Set([1]))!;
    expect([...ghosts.leaving]).toEqual([]);
    expect(ghosts.to.get(6)).toHaveLength(1);
  });

  it('is gone once it was accepted, or when nothing of it is left', () => {
    expect(ghostsOf(run([moved], 5), new Set())).toBeNull();
    expect(ghostsOf(run([moved]), new Set([1]))).toBeNull();
    expect(ghostsOf(undefined, new Set())).toBeNull();
  });

  it('draws the rounds that change as they are and as they would be', () => {
    const visitsOf = new Map([
      [5, [standing(1, 100), standing(9, 300)]],
      [6, [standing(7, 300)]],
      [8, [standing(3, 50)]],
    ]);
    const tours = toursOf(ghostsOf(run([moved, placed]), new Set())!, visitsOf, { start: 0, end: 1000 });
    expect(tours).toEqual([
      {
        technicianId: 5,
        before: [
          [1, 0],
          [9, 0],
        ],
        after: [[9, 0]],
      },
      {
        technicianId: 6,
        before: [[7, 0]],
        after: [
          [2, 0],
          [7, 0],
          [1, 0],
        ],
      },
    ]);
  });

  it('keeps to the days shown', () => {
    const tours = toursOf(ghostsOf(run([moved]), new Set())!, new Map(), { start: 500, end: 1000 });
    expect(tours.every((tour) => tour.after.length === 0)).toBe(true);
  });
});
