import { describe, expect, it } from 'vitest';
import { effectRows } from '@/features/scheduling/runs/effects';

const measures = (more = {}) => ({
  left: 0,
  promised_left: 0,
  late: 0,
  drive_seconds: 0,
  drive_metres: 0,
  overtime_seconds: 0,
  ...more,
});

describe('what a proposal comes to', () => {
  it('leaves out what is nothing before and after', () => {
    const rows = effectRows(measures({ left: 5 }), measures({ left: 2 }));
    expect(rows).toEqual([{ words: 'Visits without a place', before: '5', after: '2', better: true }]);
  });

  it('says times and distances as people do', () => {
    const before = measures({ drive_seconds: 3600, drive_metres: 40_400 });
    const after = measures({ drive_seconds: 5400, drive_metres: 52_600 });
    expect(effectRows(before, after).map((row) => [row.words, row.before, row.after, row.better])).toEqual([
      ['Driving', '1 h', '1 h 30', false],
      ['Kilometres', '40', '53', false],
    ]);
  });

  it('calls neither better what reads the same', () => {
    const [row] = effectRows(measures({ drive_metres: 40_400 }), measures({ drive_metres: 40_300 }));
    expect(row!.better).toBeNull();
  });
});
