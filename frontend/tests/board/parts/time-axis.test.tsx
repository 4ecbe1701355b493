import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { axisOf, type Axis } from '@/features/board/axis';
import { ColumnLines, TimeAxis } from '@/features/board/lanes/TimeAxis';
import { at, draw, FRIDAY, HOUR, TODAY } from '../../drawn';
import { serve } from '../../server';
import { INES } from '../worlds';

const DAY = 24 * HOUR;
const days = (count: number) =>
  ['2026-11-27', '2026-11-28', '2026-11-29'].slice(0, count).map((day, index) => ({
    day,
    start: FRIDAY + index * DAY,
    end: FRIDAY + (index + 1) * DAY,
  }));
const NONE: ReadonlyMap<string, string> = new Map();

const top = async (axis: Axis, more: { now?: number; holidays?: ReadonlyMap<string, string> } = {}) => {
  serve({});
  const onDay = vi.fn();
  const drawn = await draw(
    <TimeAxis
      axis={axis}
      from={axis.start}
      until={axis.end}
      now={more.now ?? FRIDAY - DAY}
      aimedDay={null}
      holidays={more.holidays ?? NONE}
      onDay={onDay}
    />,
  );
  return { ...drawn, onDay };
};
const lettering = () => [...document.querySelectorAll('time')].map((row) => row.textContent);

describe('hours across the top', () => {
  it('are lettered from the first shift to the last', async () => {
    await top(axisOf(days(1), [INES], 900, 60));
    expect(lettering()).toEqual(['08:00', '10:00', '11:00', '12:00', '13:00', '14:00', '15:00', '16:00']);
  });

  it('leave room for now, which stands out', async () => {
    await top(axisOf(days(1), [INES], 900, 60), { now: at(11, 5) });
    const words = lettering();
    expect(words).not.toContain('11:00');
    expect(words.at(-1)).toBe('11:05');
  });

  it('are only those that are on screen', async () => {
    const axis = axisOf(days(1), [INES], 900, 60);
    serve({});
    await draw(
      <TimeAxis
        axis={axis}
        from={at(12)}
        until={at(14)}
        now={FRIDAY - DAY}
        aimedDay={null}
        holidays={NONE}
        onDay={vi.fn()}
      />,
    );
    expect(lettering()).toEqual(['12:00', '13:00', '14:00']);
  });

  it('are left out where days are drawn small', async () => {
    await top(axisOf(days(3), [INES], 600, null));
    expect(lettering()).toEqual([]);
  });
});

describe('days across the top', () => {
  it('open on a press', async () => {
    const { user, onDay } = await top(axisOf(days(3), [INES], 600, null));
    await user.click(screen.getByRole('button', { name: 'Sat 28 Nov' }));
    expect(onDay).toHaveBeenCalledWith('2026-11-28');
  });

  it('say which is a holiday', async () => {
    await top(axisOf(days(3), [INES], 600, null), { holidays: new Map([['2026-11-28', 'Founders']]) });
    expect(screen.getByRole('button', { name: 'Sat 28 Nov Founders' })).toBeVisible();
  });

  it('say of a single holiday that nobody works', async () => {
    await top(axisOf(days(1), [], 900, 60), { holidays: new Map([[TODAY, 'Founders']]) });
    expect(screen.getByText('Founders: nobody has a shift')).toBeVisible();
  });
});

describe('lines behind the lanes', () => {
  const lines = async (axis: Axis, column: 30 | null, now = FRIDAY - DAY) => {
    serve({});
    await draw(<ColumnLines axis={axis} from={axis.start} until={axis.end} column={column} now={now} />);
    return document.querySelectorAll('.border-l').length;
  };

  it('stand at each column that was chosen', async () => {
    // From 08:00 to 16:30.
    expect(await lines(axisOf(days(1), [INES], 900, 30), 30)).toBe(17);
  });

  it('stand at the lettered hours otherwise', async () => {
    expect(await lines(axisOf(days(1), [INES], 900, null), null)).toBe(9);
  });

  it('mark now on its own day only', async () => {
    await lines(axisOf(days(1), [INES], 900, 60), null, at(12));
    expect(screen.getByTestId('now')).toHaveStyle({ left: '224px' });
  });

  it('do not mark now on another day', async () => {
    await lines(axisOf(days(1), [INES], 900, 60), null, at(48));
    expect(screen.queryByTestId('now')).toBeNull();
  });
});
