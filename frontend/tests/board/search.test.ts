import { beforeEach, describe, expect, it, vi } from 'vitest';
import { boardSearch, leave, leftAt } from '@/features/board/search';

const kept = new Map<string, string>();
vi.stubGlobal('localStorage', {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
});
beforeEach(() => kept.clear());

const DORA = 'dora@example.org';

describe('what the address of a board says', () => {
  it('is kept as it is where it makes sense', () => {
    const search = {
      day: '2026-11-27',
      span: 7,
      view: 'both',
      column: 30,
      group: 'crew',
      hue: 'worth',
      label: 'job_site',
      visit: 12,
      only: [3, 4],
      waiting: { priorities: [1, 2], sort: 'nearest', lon: -24.6, lat: 47.2, metres: 3000 },
      gap: { who: 2, start: 10, end: 20 },
    };
    expect(boardSearch.parse(search)).toEqual(search);
  });

  it.each([
    ['day', 'tomorrow'],
    ['span', 5],
    ['view', 'circle'],
    ['column', 7],
    ['group', 'shoe size'],
    ['visit', -1],
    ['visit', 'W-1'],
    ['run', -1],
    ['only', ['x']],
    ['gap', { who: 2 }],
    ['text', 'x'.repeat(101)],
  ])('is left out where it makes none: %s', (name, value) => {
    expect(boardSearch.parse({ [name]: value, hue: 'area' })).toEqual({ hue: 'area' });
  });

  it('loses one senseless filter and keeps the others', () => {
    const waiting = { reason: 'unplaced', priorities: [9], sort: 'loudest', tag: 'school' };
    expect(boardSearch.parse({ waiting }).waiting).toEqual({ reason: 'unplaced', tag: 'school' });
  });

  it('knows a stretch to fill and a visit to follow', () => {
    expect(boardSearch.parse({ gap: { after: 7 } }).gap).toEqual({ after: 7 });
  });
});

describe('where somebody left the board', () => {
  it('is where they find it again, but for what was only passing', () => {
    leave(DORA, '2026-11-27', {
      day: '2026-11-30',
      span: 7,
      hue: 'area',
      waiting: { priorities: [1] },
      visit: 12,
      person: 3,
      run: 4,
      text: 'school',
      gap: { after: 12 },
    });
    expect(leftAt(DORA, '2026-11-27')).toEqual({
      day: '2026-11-30',
      span: 7,
      hue: 'area',
      waiting: { priorities: [1] },
    });
  });

  it('begins with today on another day', () => {
    leave(DORA, '2026-11-27', { day: '2026-11-30', hue: 'area' });
    expect(leftAt(DORA, '2026-11-28')).toEqual({ hue: 'area' });
  });

  it('is everybody’s own', () => {
    leave(DORA, '2026-11-27', { hue: 'area' });
    expect(leftAt('night@example.org', '2026-11-27')).toEqual({});
  });

  it.each(['not json', '[]', '{"search": 7}', '{"on": "2026-11-27", "search": {"span": 99}}'])(
    'is nowhere when what was kept makes no sense: %s',
    (words) => {
      kept.set(`board-left-at ${DORA}`, words);
      expect(leftAt(DORA, '2026-11-27')).toEqual({});
    },
  );
});
