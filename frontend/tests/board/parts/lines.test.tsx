import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { axisOf } from '@/features/board/axis';
import { CrewRow } from '@/features/board/lanes/CrewRow';
import type { Drawing } from '@/features/board/lanes/drawing';
import { LaneRow } from '@/features/board/lanes/Lane';
import type { BoardVisit, Lane } from '@/features/board/model';
import { at, draw } from '../../drawn';
import { serve } from '../../server';
import { board, INES, IVOR, lane, laneDay, visit } from '../worlds';

const AXIS = axisOf(board().days, [INES], 900, 60);
const PLAIN: Drawing = { label: 'site', hueOf: () => undefined, wide: false, stretches: true };
const NOBODY: ReadonlySet<number> = new Set();

const shared = () => ({
  axis: AXIS,
  from: AXIS.start,
  until: AXIS.end,
  drawing: PLAIN,
  selectedId: null,
  chosen: NOBODY,
  liftedId: null,
  aimed: false,
  onPress: vi.fn(),
  onKey: vi.fn(),
});
const signs = () => screen.queryAllByRole('button', { name: /^W-/ }).map((row) => row.dataset.visit);

describe('the line of a crew', () => {
  const crew = { id: 4, name: 'North pair', members: [INES, IVOR] };
  const row = async (visits: [number, BoardVisit[]][], more = {}) => {
    serve({});
    const props = { ...shared(), ...more };
    await draw(<CrewRow crew={crew} visitsOf={new Map(visits)} {...props} />);
    await screen.findByRole('listitem', { name: 'Crew North pair' });
    return props;
  };

  it('carries what its members do together, and once', async () => {
    const both = visit(1, { technician_id: 1, mates: [2], crew: 2 });
    await row([
      [1, [both, visit(2)]],
      [2, [both, visit(3, { technician_id: 2 })]],
    ]);
    expect(signs()).toEqual(['1']);
  });

  it('has a shade where one of them is busy alone', async () => {
    await row([[2, [visit(3, { technician_id: 2 })]]]);
    const shades = document.querySelectorAll<HTMLElement>('[data-mates] > span[aria-hidden]');
    expect([...shades].map((shade) => shade.style.left)).toEqual(['168px']);
  });

  it('places with all of them what is dropped on it', async () => {
    await row([]);
    const line = document.querySelector<HTMLElement>('[data-lane]')!;
    expect(line.dataset).toMatchObject({ lane: '1', mates: '2' });
    expect(screen.getByText('Ines, Ivor')).toBeVisible();
  });

  it('hands on presses and keys', async () => {
    const both = visit(1, { technician_id: 1, mates: [2], crew: 2 });
    const { onPress, onKey } = await row([[1, [both]]]);
    fireEvent.pointerDown(screen.getByRole('button'));
    fireEvent.keyDown(screen.getByRole('button'), { key: ' ' });
    expect(onPress.mock.calls[0]![1]).toBe(both);
    expect(onKey.mock.calls[0]![1]).toBe(both);
  });
});

describe('the line of a technician', () => {
  const row = async (given: Lane, visits: BoardVisit[], more = {}) => {
    serve({});
    const on = { onPerson: vi.fn(), onPlan: vi.fn() };
    const drawn = await draw(
      <LaneRow
        lane={given}
        visits={visits}
        {...shared()}
        {...on}
        preview={null}
        marks={null}
        ghosts={null}
        leaving={NOBODY}
        unfit={null}
        {...more}
      />,
    );
    // A lane is its name until one can follow it.
    await vi.waitFor(() => expect(document.querySelector('[data-lane] > svg')).not.toBeNull());
    return { ...drawn, ...on };
  };
  const line = () => document.querySelector<HTMLElement>('[data-lane="1"]')!;

  it('carries what is seen of its visits', async () => {
    await row(INES, [visit(1), visit(2, { start: at(13), expected_start: at(13), expected_end: at(14) })], {
      from: at(12),
      until: at(16),
    });
    expect(signs()).toEqual(['2']);
  });

  it('has marks where a held visit would fit', async () => {
    await row(INES, [], { marks: [at(9), at(12)] });
    const marks = [...document.querySelectorAll<HTMLElement>('[data-mark]')];
    expect(marks.map((mark) => Number(mark.dataset.mark))).toEqual([at(9), at(12)]);
    expect(marks.map((mark) => mark.style.left)).toEqual(['56px', '224px']);
  });

  it('steps back while a visit is held that cannot go there', async () => {
    await row(INES, [], { unfit: ['Rescue 3 needed, Ines Falk has none'] });
    expect(line().style.opacity).toBe('0.45');
  });

  it('does not step back while the visit is over it: what is wrong is said in full', async () => {
    await row(INES, [], { unfit: ['Rescue 3 needed, Ines Falk has none'], aimed: true });
    expect(line().style.opacity).toBe('');
  });

  it('pales what a proposal takes away', async () => {
    await row(INES, [visit(1), visit(2, { expected_start: at(13), expected_end: at(14) })], {
      leaving: new Set([2]),
    });
    expect(document.querySelector('[data-visit="2"]')).toHaveClass('opacity-40');
    expect(document.querySelector('[data-visit="1"]')).not.toHaveClass('opacity-40');
  });

  it('opens the technician at a reminder', async () => {
    const reminder = { id: 9, at: at(10), text: 'Call the office', done: false };
    const days = [laneDay({ reminders: [reminder] as never })];
    const { user, onPerson } = await row(lane(1, 'Ines Falk', { days }), []);
    await user.click(screen.getByRole('button', { name: /Call the office/ }));
    expect(onPerson).toHaveBeenCalledWith(1);
  });

  it('says that its days are still on their way', async () => {
    await row(lane(1, 'Ines Falk', { days: [] }), []);
    expect(line()).toHaveTextContent('…');
  });

  it('tells whose it is to whoever does not see it', async () => {
    await row(INES, []);
    expect(screen.getByRole('listitem', { name: 'Ines Falk' })).toBeVisible();
  });
});
