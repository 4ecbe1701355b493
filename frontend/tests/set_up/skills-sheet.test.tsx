import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { levelOf, moved } from '@/features/set_up/skills/sheet';
import { SkillsSheet } from '@/features/set_up/pages';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const INES = { id: 3, version: 4, name: 'Ines Falk', skills: { doors: 3 } };
const IVOR = { id: 5, version: 1, name: 'Ivor Larkin', skills: {} };
const SET = 'PUT /api/v1/technicians/3/skill';
const show = (more: Record<string, unknown> = {}, canChange = true) => {
  serve({
    'GET /api/v1/technicians/skills': [INES, IVOR],
    'GET /api/v1/people/skills': [
      { code: 'doors', name: 'Doors', retired: false },
      { code: 'lifts', name: 'Lifts', retired: false },
      { code: 'old', name: 'Old', retired: true },
    ],
    ...more,
  });
  return draw(<SkillsSheet />, { may: canChange ? ['use', 'change_settings'] : ['use'] });
};
const cell = (name: string) => screen.findByRole('gridcell', { name });

describe('the sheet of skills', () => {
  it('is written into by keys, each level with the version that came last', async () => {
    let version = 4;
    const { user } = await show({
      [SET]: ({ body }: { body: unknown }) => {
        const { code, level } = body as { code: string; level: number | null };
        version += 1;
        const skills = Object.fromEntries(
          [['doors', 3] as const, [code, level] as const].filter(([, l]) => l),
        );
        return { ...INES, version, skills };
      },
    });
    await user.click(await cell('Lifts of Ines Falk: none'));
    await user.keyboard('4');
    expect(await cell('Lifts of Ines Falk: 4')).toHaveFocus();
    await user.keyboard('{ArrowLeft}0');
    await waitFor(() =>
      expect(askedOf(SET).map((row) => row.body)).toEqual([
        { version: 4, code: 'lifts', level: 4 },
        { version: 5, code: 'doors', level: null },
      ]),
    );
    await user.keyboard('{ArrowDown}');
    expect(await cell('Doors of Ivor Larkin: none')).toHaveFocus();
  });

  it('says who was faster, and shows what they did', async () => {
    const { user } = await show({
      [SET]: () => {
        throw new Refusal(409, { code: 'stale', title: 'Greta has changed this technician meanwhile.' });
      },
    });
    await user.click(await cell('Doors of Ines Falk: 3'));
    await user.keyboard('5');
    expect(await screen.findByText('Greta has changed this technician meanwhile.')).toBeVisible();
    await waitFor(() => expect(askedOf('GET /api/v1/technicians/skills')).toHaveLength(2));
  });

  it('is only read by who may not change it', async () => {
    const { user } = await show({}, false);
    await user.click(await cell('Doors of Ines Falk: 3'));
    await user.keyboard('5');
    expect(await cell('Doors of Ines Falk: 3')).toHaveAttribute('aria-readonly', 'true');
    expect(askedOf(SET)).toEqual([]);
  });

  it('has no column for a skill that is retired', async () => {
    await show();
    await cell('Doors of Ines Falk: 3');
    expect(screen.queryByRole('columnheader', { name: 'Old' })).toBeNull();
  });
});

describe('a key in it', () => {
  it('leads on within the sheet', () => {
    expect(moved('ArrowUp', { row: 0, column: 1 }, 3, 2)).toEqual({ row: 0, column: 1 });
    expect(moved('Enter', { row: 0, column: 1 }, 3, 2)).toEqual({ row: 1, column: 1 });
    expect(moved('End', { row: 2, column: 0 }, 3, 2)).toEqual({ row: 2, column: 1 });
    expect(moved('x', { row: 2, column: 0 }, 3, 2)).toEqual({ row: 2, column: 0 });
  });

  it.each([
    ['1', 1],
    ['5', 5],
    ['0', null],
    ['Delete', null],
    ['6', undefined],
    ['a', undefined],
  ])('%s sets %s', (key, level) => expect(levelOf(key)).toBe(level));
});
