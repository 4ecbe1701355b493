import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { SchemaPartIn } from '@/api/types';
import { FurtherVisits } from '@/features/catalogue/types/FurtherVisits';
import { draw } from '../drawn';
import { serve } from '../server';

let kept: SchemaPartIn[] = [];
function Editor({ start }: { start: SchemaPartIn[] }) {
  const [visits, setVisits] = useState(start);
  kept = visits;
  return <FurtherVisits first="Survey" visits={visits} onChange={setVisits} />;
}
const after = (to: number) => ({ kind: 'after', to, least: 0, greatest: null });
const part = (title: string, ...to: number[]) =>
  ({ title, seconds: 7200, needs: null, crew: 1, ties: to.map(after) }) as SchemaPartIn;
const show = (start: SchemaPartIn[]) => {
  serve({});
  return draw(<Editor start={start} />);
};
const group = (number: number) => screen.findByRole('group', { name: `Visit ${number}` });

describe('further visits of a job type', () => {
  it('come after the one before unless it is said otherwise', async () => {
    const { user } = await show([part('Strip out', 1)]);
    await user.click(await screen.findByRole('button', { name: 'Add a visit' }));
    expect(kept[1]).toMatchObject({ title: '', crew: 1, ties: [after(2)] });
  });

  it('have a length, a crew and a name', async () => {
    const { user } = await show([part('', 1)]);
    const row = await group(2);
    await user.type(within(row).getByLabelText('What for'), 'Install');
    await user.clear(within(row).getByLabelText('Minutes'));
    await user.type(within(row).getByLabelText('Minutes'), '90');
    expect(kept[0]).toMatchObject({ title: 'Install', seconds: 5400 });
    await user.clear(within(row).getByLabelText('Minutes'));
    expect(kept[0]!.seconds).toBeNull();
  });

  it('are tied in any of the three ways, to earlier ones only', async () => {
    const { user } = await show([part('Strip out', 1), part('Install', 2)]);
    const row = await group(3);
    expect(
      within(within(row).getByLabelText('Tied to'))
        .getAllByRole('option')
        .map((one) => one.textContent),
    ).toEqual(['Survey', 'Strip out']);
    await user.selectOptions(within(row).getByLabelText('Tie'), 'same_technician');
    await user.selectOptions(within(row).getByLabelText('Tied to'), 'Survey');
    expect(kept[1]!.ties).toEqual([{ ...after(1), kind: 'same_technician' }]);
    await user.click(within(row).getByRole('button', { name: 'Untie' }));
    expect(kept[1]!.ties).toEqual([]);
  });

  it('keep their ties right when one between them goes', async () => {
    const { user } = await show([part('Strip out', 1), part('Install', 2), part('Commission', 3, 1)]);
    await user.click(await screen.findByRole('button', { name: 'Remove Strip out' }));
    // Install was tied to what is gone; Commission still comes after Install, which is the second now.
    expect(kept.map((row) => [row.title, row.ties!.map((tie) => tie.to)])).toEqual([
      ['Install', []],
      ['Commission', [2, 1]],
    ]);
  });
});
