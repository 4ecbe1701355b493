import { cleanup, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { axisOf } from '@/features/board/axis';
import type { Drawing } from '@/features/board/lanes/drawing';
import { LaneHead } from '@/features/board/lanes/LaneHead';
import { Station } from '@/features/board/lanes/Station';
import { NOTHING_BROKEN, type BoardVisit, type Broken } from '@/features/board/model';
import { at, draw, FRIDAY, HOUR, TODAY } from '../../drawn';
import { serve } from '../../server';
import { board, INES, lane, laneDay, visit } from '../worlds';

const AXIS = axisOf(board().days, [INES], 900, 60);
const PLAIN: Drawing = { label: 'site', hueOf: () => undefined, wide: false, stretches: true };

const station = async (
  given: BoardVisit,
  more: { broken?: Broken; drawing?: Drawing; chosen?: boolean } = {},
) => {
  serve({});
  const on = { onPress: vi.fn(), onKey: vi.fn() };
  await draw(
    <Station
      visit={given}
      axis={AXIS}
      drawing={more.drawing ?? PLAIN}
      broken={more.broken ?? NOTHING_BROKEN}
      selected={false}
      chosen={more.chosen ?? false}
      lifted={false}
      {...on}
    />,
  );
  return { button: await screen.findByRole('button'), ...on };
};

describe('a visit on its line', () => {
  it('says everything to whoever does not see it', async () => {
    const promise = { start: at(10), end: at(12) };
    const { button } = await station(
      visit(7, { promise, crew: 2, linked: true, pinned: true, noted: true, state: 'sent' }),
    );
    expect(button).toHaveAccessibleName(
      'W-7 Door upkeep, Seagate Hall. 11:00 to 12:00, 1 h. sent. promised 10:00–12:00. crew of 2. ' +
        'linked to another visit. locked. has a note',
    );
  });

  it('has a grip on its right edge for whoever may draw it longer, until it is over', async () => {
    const grips = async (given: BoardVisit, stretches = true) => {
      const { button } = await station(given, { drawing: { ...PLAIN, stretches } });
      return button.querySelectorAll('[data-grip]').length;
    };
    expect(await grips(visit(7))).toBe(1);
    cleanup();
    expect(await grips(visit(7), false)).toBe(0);
    cleanup();
    expect(await grips(visit(7, { state: 'done', movable: false, over: true }))).toBe(0);
  });

  it('without a length has a beginning and no end', async () => {
    const { button } = await station(visit(7, { duration_seconds: null }));
    expect(button).toHaveAccessibleName(/from 11:00, no duration yet/);
    expect(button.style.maskImage).toContain('transparent');
  });

  it('wears a sign of what it breaks, and the part that is missing', async () => {
    const broken = { limits: true, parts: true, sentences: ['1 × Seal set needed, 0 on the van'] };
    const { button } = await station(visit(7), { broken });
    expect(button).toHaveTextContent('!');
    expect(button).toHaveAccessibleName(/parts missing. 1 × Seal set needed, 0 on the van/);
  });

  it.each([
    ['site', 'Seagate Hall'],
    ['customer', 'Seagate Stores'],
    ['job', 'Door upkeep'],
    ['job_site', 'Door upkeep · Seagate Hall'],
    ['number', 'W-7'],
  ] as const)('has written on it what was chosen: %s', async (label, words) => {
    const { button } = await station(visit(7), { drawing: { ...PLAIN, label } });
    expect(button).toHaveTextContent(words);
  });

  it('says that it is chosen', async () => {
    const { button } = await station(visit(7), { chosen: true });
    expect(button).toHaveAttribute('aria-pressed', 'true');
  });

  it('stands where it is expected once it is late', async () => {
    const { button } = await station(visit(7, { expected_start: at(12), expected_end: at(13) }));
    expect(button).toHaveAccessibleName(/12:00 to 13:00/);
  });
});

describe('the head of a line', () => {
  const head = async (of: ReturnType<typeof lane>, more: { wide?: boolean; unfit?: string[] } = {}) => {
    serve({});
    const on = { onPerson: vi.fn(), onPlan: vi.fn() };
    const drawn = await draw(
      <LaneHead lane={of} unfit={more.unfit ?? null} wide={more.wide ?? false} {...on} />,
    );
    await screen.findByText('Ines Falk');
    return { ...drawn, ...on };
  };
  const NONE = { working: 0, left: 0, share: 0, gaps: [] };
  const busy = (drive: number, work: number, more = {}) =>
    lane(1, 'Ines Falk', {
      days: [
        laneDay({
          timetable: { ...laneDay().timetable, drive_seconds: drive, work_seconds: work, ...more },
          workload: { ...laneDay().workload, left: Math.max(0, 8 * HOUR - drive - work) },
        }),
      ],
    });

  it('says how much is free and how much is driving', async () => {
    await head(busy(HOUR, 3 * HOUR));
    expect(screen.getByText(/4 h free/)).toHaveTextContent('4 h free · 25 % road');
  });

  it('says overtime instead of free time', async () => {
    await head(busy(HOUR, 8 * HOUR, { overtime: { start: at(16), end: at(16, 40) } }));
    expect(screen.getByText(/over ·/)).toHaveTextContent('40 min over');
  });

  it.each([
    ['no shift', laneDay({ shift: null, workload: NONE })],
    ['absent', laneDay({ absences: [{ id: 1, start: FRIDAY, end: at(24), reason: 'ill' }], workload: NONE })],
  ])('says %s', async (words, day) => {
    await head(lane(1, 'Ines Falk', { days: [day] }));
    expect(screen.getByText(words)).toBeVisible();
  });

  it('with room says skills and areas', async () => {
    await head(lane(1, 'Ines Falk', { areas: [] }), { wide: true });
    expect(screen.getByText('Door drives 3')).toBeVisible();
    expect(screen.getByText('every area')).toBeVisible();
  });

  it('says while a visit is held why it cannot go there', async () => {
    await head(INES, { unfit: ['Rescue 3 needed, Ines Falk has none'] });
    expect(screen.getByText('Rescue 3 needed, Ines Falk has none')).toBeVisible();
  });

  it('opens all about the technician, and plans the day', async () => {
    const { user, onPerson, onPlan } = await head(INES);
    await user.click(screen.getByText('Ines Falk'));
    expect(onPerson).toHaveBeenCalledWith(1);
    await user.click(screen.getByRole('button', { name: 'Plan the day of Ines Falk' }));
    expect(onPlan).toHaveBeenCalledWith(1);
    expect(TODAY).toBe('2026-11-27');
  });
});
