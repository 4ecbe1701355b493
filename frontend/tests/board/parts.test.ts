import { describe, expect, it } from 'vitest';
import type { SchemaLaneHeadOut } from '@/api/types';
import { inChunks } from '@/features/board/lanes/chunks';
import { hueValue, huesOf } from '@/features/board/hues';
import {
  brokenByVisit,
  NOTHING_BROKEN,
  wantedParts,
  type BoardVisit,
  type Lane,
} from '@/features/board/model';

const laneWith = (...broken: { visit_id: number | null; limit: string; sentence: string }[]) =>
  ({ days: [{ timetable: { broken } }] }) as unknown as Lane;
const visit = (more: Partial<BoardVisit>) =>
  ({ technician_id: 1, state: 'placed', takes: {}, worth: null, ...more }) as BoardVisit;

describe('what is wrong with visits', () => {
  it('tells a missing part from a broken limit', () => {
    const found = brokenByVisit(
      laneWith(
        { visit_id: 1, limit: 'parts', sentence: 'no roller' },
        { visit_id: 2, limit: 'promise', sentence: 'late' },
        { visit_id: 2, limit: 'parts', sentence: 'no lamp' },
        { visit_id: null, limit: 'break', sentence: 'no break' },
      ),
    );
    expect(found.get(1)).toEqual({ limits: false, parts: true, sentences: ['no roller'] });
    expect(found.get(2)).toEqual({ limits: true, parts: true, sentences: ['late', 'no lamp'] });
    expect(found.size).toBe(2);
  });
  it('keeps nothing between lanes', () => {
    brokenByVisit(laneWith({ visit_id: 1, limit: 'promise', sentence: 'late' }));
    expect(NOTHING_BROKEN).toEqual({ limits: false, parts: false, sentences: [] });
  });
});

describe('what a day takes from the van', () => {
  it('is what is led and not yet over, added up', () => {
    const wanted = wantedParts(
      [
        visit({ takes: { Roller: 2 } }),
        visit({ takes: { Roller: 1, Lamp: 1 }, state: 'on_site' }),
        visit({ takes: { Roller: 5 }, state: 'done', over: true }),
        visit({ takes: { Roller: 7 }, technician_id: 2 }),
      ],
      1,
    );
    expect([...wanted]).toEqual([
      ['Roller', 3],
      ['Lamp', 1],
    ]);
  });
});

describe('the hue of worth', () => {
  it.each([
    [null, 'worth unknown'],
    [0, 'worth 0–99'],
    [99, 'worth 0–99'],
    [100, 'worth 100–249'],
    [999, 'worth 500–999'],
    [5200, 'worth 1000 and more'],
  ])('puts %s among “%s”', (worth, band) => {
    expect(hueValue(visit({ worth }), 'worth')).toBe(band);
  });
  it('lists its bands by their size', () => {
    const hues = huesOf(
      [1000, 100, 250, 0, null].map((worth) => visit({ worth })),
      'worth',
    );
    expect([...hues.keys()]).toEqual([
      'worth 0–99',
      'worth 100–249',
      'worth 250–499',
      'worth 1000 and more',
      'worth unknown',
    ]);
  });
});

describe('the parts in which a board is fetched', () => {
  const people = (count: number) =>
    Array.from({ length: count }, (_, index) => ({ technician_id: index + 1 }) as SchemaLaneHeadOut);
  it('begin with a screen full and miss nobody', () => {
    const chunks = inChunks(people(200), 7);
    expect(chunks[0]).toHaveLength(14);
    expect(chunks.flat()).toEqual(people(200).map((row) => row.technician_id));
    expect(Math.max(...chunks.map((chunk) => chunk.length))).toBe(22);
  });
  it('are smaller the more days are shown, down to eight technicians', () => {
    expect(inChunks(people(40), 14).map((chunk) => chunk.length)).toEqual([11, 11, 11, 7]);
    expect(inChunks(people(20), 60)[0]).toHaveLength(8);
  });
  it('are none of nobody', () => {
    expect(inChunks([], 1)).toEqual([]);
  });
});
