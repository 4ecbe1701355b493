import { describe, expect, it } from 'vitest';
import { axisOf, lettered, lined, momentAt, xOf } from '@/features/board/axis';
import type { Lane, LaneDay } from '@/features/board/model';

const MIDNIGHT = 1_795_395_600;
const HOUR = 3600;
const DAY = 24 * HOUR;
const at = (hours: number, day = 0) => MIDNIGHT + day * DAY + hours * HOUR;
const days = (count: number) =>
  Array.from({ length: count }, (_, n) => ({ day: `day ${n}`, start: at(0, n), end: at(0, n + 1) }));
const laneDay = (n: number, from: number, to: number, stretches: { start: number; end: number }[] = []) =>
  ({
    start: at(0, n),
    end: at(0, n + 1),
    shift: { start: at(from, n), end: at(to, n), gap: null, on_call: null },
    timetable: { stretches },
  }) as unknown as LaneDay;
const lanes = (...list: LaneDay[]) => [{ days: list } as Lane];

describe('one day', () => {
  const axis = axisOf(days(1), lanes(laneDay(0, 8, 16)), 850, null);

  it('runs on whole hours around the shifts and fits the width', () => {
    expect([axis.start, axis.end]).toEqual([at(8), at(16.5)]);
    expect(axis.pixelsPerHour).toBe(100);
  });

  it('turns pixels into moments and back, snapped to five minutes', () => {
    expect(momentAt(axis, xOf(axis, at(9.25)))).toBe(at(9.25));
    expect(momentAt(axis, 102)).toBe(at(9));
    expect(momentAt(axis, 107)).toBe(at(9) + 300);
  });

  it('reaches to work outside the shift', () => {
    const early = [{ start: at(6.5), end: at(7) }];
    expect(axisOf(days(1), lanes(laneDay(0, 8, 16, early)), 800, null).start).toBe(at(6));
  });

  it('has a day to show when nobody works', () => {
    const empty = axisOf(days(1), [], 800, null);
    expect(empty.end).toBeGreaterThan(empty.start);
  });
});

describe('several days', () => {
  const axis = axisOf(days(3), lanes(laneDay(0, 8, 16), laneDay(2, 7, 18)), 900, null);

  it('gives each the same hours and leaves the nights out', () => {
    expect(axis.segments.map((row) => [row.start, row.left])).toEqual([
      [at(7, 0), 0],
      [at(7, 1), 300],
      [at(7, 2), 600],
    ]);
    expect(axis.width).toBe(900);
  });

  it('puts a moment of the night on the edge of its day', () => {
    expect(xOf(axis, at(23, 0))).toBe(300);
    expect(xOf(axis, at(2, 1))).toBe(300);
    expect(xOf(axis, at(7, 1))).toBe(300);
  });

  it('finds the day under a pixel', () => {
    expect(momentAt(axis, 300)).toBe(at(7, 1));
    expect(momentAt(axis, 5000)).toBeGreaterThan(at(18, 2));
  });

  it('letters only as many hours as have room', () => {
    expect(lettered(axis)).toEqual([0, 1, 2].flatMap((n) => [7, 9, 11, 13, 15, 17].map((h) => at(h, n))));
  });
});

it('draws a line for each column that is chosen, whatever is lettered', () => {
  const axis = axisOf(days(1), lanes(laneDay(0, 8, 9)), 100, 15);
  expect(axis.pixelsPerHour).toBe(224);
  expect(lined(axis, 15)).toHaveLength(6);
});
