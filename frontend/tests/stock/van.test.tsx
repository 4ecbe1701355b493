import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Van } from '@/features/stock';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const VAN = 'GET /api/v1/technicians/1/van';
const COUNT = 'PUT /api/v1/technicians/1/van';
const codeOf = (part: string) => part.toLowerCase().replace(' ', '-');
const row = (part: string, quantity: number, version = 1) => ({
  code: codeOf(part),
  part,
  quantity,
  version,
});
const known = (name: string) => ({ code: codeOf(name), name, retired: false });

const show = async (
  van: unknown,
  more: { wanted?: [string, number][]; canPlan?: boolean; count?: unknown } = {},
) => {
  serve({
    [VAN]: van,
    [COUNT]: more.count ?? [row('Door roller', 5, 2)],
    'GET /api/v1/parts': [known('Door roller'), known('Seal set')],
  });
  const on = { onChanged: vi.fn(), undo: vi.fn() };
  const part = (
    <Van
      technicianId={1}
      name="Ines Falk"
      wanted={new Map(more.wanted)}
      canPlan={more.canPlan ?? true}
      {...on}
    />
  );
  return { ...(await draw(part)), ...on };
};

describe('a van', () => {
  it('that nobody counts says what that means', async () => {
    await show([]);
    expect(await screen.findByText(/Nobody counts the van of Ines Falk/)).toBeVisible();
  });

  it('says what the days take, and warns of what is not there', async () => {
    await show([row('Door roller', 1)], {
      wanted: [
        ['door-roller', 3],
        ['seal-set', 2],
      ],
    });
    const van = await screen.findByRole('region', { name: 'On the van' });
    expect(within(van).getByText('takes 3')).toHaveClass('text-warn');
    expect(within(van).getByText('takes 2, none there')).toBeVisible();
    expect(await within(van).findByText('Seal set')).toBeVisible();
  });

  it('is counted by typing, with the version that was seen', async () => {
    const { user, onChanged } = await show([row('Door roller', 1, 7)]);
    const field = await screen.findByLabelText('Door roller on the van');
    await user.clear(field);
    await user.type(field, '5{Enter}');
    await waitFor(() => expect(onChanged).toHaveBeenCalled());
    expect(askedOf(COUNT)[0]!.body).toEqual({ part: 'Door roller', quantity: 5, version: 7 });
    expect(await screen.findByLabelText('Door roller on the van')).toHaveValue('5');
  });

  it('is not counted in words, and Escape gives back what was there', async () => {
    const { user } = await show([row('Door roller', 1)]);
    const field = await screen.findByLabelText('Door roller on the van');
    await user.clear(field);
    await user.type(field, 'many');
    expect(screen.getByRole('alert')).toHaveTextContent('a whole number');
    await user.keyboard('{Escape}');
    expect(field).toHaveValue('1');
    expect(askedOf(COUNT)).toHaveLength(0);
  });

  it('takes a part off its list', async () => {
    const { user } = await show([row('Door roller', 1, 7)], { count: [] });
    await user.click(await screen.findByRole('button', { name: 'Take Door roller off the list' }));
    await waitFor(() => expect(askedOf(COUNT)[0]?.body).toMatchObject({ quantity: null, version: 7 }));
  });

  it('gets a new part, or a known one under the name it goes by', async () => {
    const { user } = await show([row('Door roller', 1, 7)]);
    const form = await screen.findByRole('form', { name: 'Count a part' });
    await user.type(within(form).getByLabelText('Part'), 'door roller');
    await user.clear(within(form).getByLabelText('How many'));
    await user.type(within(form).getByLabelText('How many'), '4');
    await user.click(within(form).getByRole('button', { name: 'Count' }));
    await waitFor(() =>
      expect(askedOf(COUNT)[0]?.body).toEqual({ part: 'door roller', quantity: 4, version: 7 }),
    );
    await waitFor(() => expect(within(form).getByLabelText('Part')).toHaveValue(''));
  });

  it('says when somebody else counted meanwhile', async () => {
    const { user } = await show([row('Door roller', 1)], {
      count: () => {
        throw new Refusal(409, { code: 'stale', title: 'Door roller: 3 on the van by now. Shown as it is.' });
      },
    });
    const field = await screen.findByLabelText('Door roller on the van');
    await user.clear(field);
    await user.type(field, '2{Enter}');
    expect(await screen.findByText(/3 on the van by now/)).toBeInTheDocument();
    expect(askedOf(VAN).length).toBeGreaterThan(1);
  });

  it('is only read by whoever may not plan', async () => {
    await show([row('Door roller', 1)], { canPlan: false });
    expect(await screen.findByText('Door roller')).toBeVisible();
    expect(screen.queryByLabelText('Door roller on the van')).toBeNull();
  });

  it('can be asked for again when it did not come', async () => {
    let times = 0;
    const { user } = await show(() => {
      times += 1;
      if (times === 1) throw new Refusal(500, { code: 'http', title: 'The server met an error.' });
      return [row('Door roller', 1)];
    });
    expect(await screen.findByText('The server met an error.')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByText('Door roller')).toBeVisible();
  });
});
