import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Views } from '@/features/orders';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const view = (id: number, name: string, more = {}) => ({
  id,
  name,
  own: true,
  shared: false,
  owner: 'Dora Quill',
  query: { priorities: [1] },
  ...more,
});
const KEEP = 'POST /api/v1/orders/views';

const show = async (keep: unknown = view(9, 'Pressing')) => {
  serve({
    'GET /api/v1/orders/views': [
      view(1, 'Mine'),
      view(2, 'Ours', { own: false, shared: true, owner: 'Milo Tarn' }),
    ],
    [KEEP]: keep,
    'DELETE /api/v1/orders/views/1': null,
  });
  const onShow = vi.fn();
  const part = (
    <Views page="backlog" all="The whole backlog" query={{ tag: 'key account' }} onShow={onShow} />
  );
  const drawn = await draw(part);
  await screen.findByText('Mine');
  return { ...drawn, onShow };
};

describe('saved views', () => {
  it("are one's own and those that others share, who are named", async () => {
    await show();
    expect(screen.getByTitle('Ours, shared by Milo Tarn')).toHaveTextContent('Ours · shared');
    expect(screen.queryByRole('button', { name: 'Remove the view Ours' })).toBeNull();
  });

  it('show what was kept, or everything again', async () => {
    const { user, onShow } = await show();
    await user.click(screen.getByRole('button', { name: 'Mine' }));
    expect(onShow).toHaveBeenCalledWith({ priorities: [1] });
    await user.click(screen.getByRole('button', { name: 'The whole backlog' }));
    expect(onShow).toHaveBeenLastCalledWith({});
  });

  it('are kept under a name, for everybody if one wants', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'save this view' }));
    expect(screen.getByRole('button', { name: 'Save view' })).toBeDisabled();
    await user.type(screen.getByLabelText('Name of the view'), 'Pressing');
    await user.click(screen.getByLabelText('for everybody'));
    await user.click(screen.getByRole('button', { name: 'Save view' }));
    await waitFor(() =>
      expect(askedOf(KEEP)[0]?.body).toEqual({
        page: 'backlog',
        name: 'Pressing',
        shared: true,
        query: { tag: 'key account' },
      }),
    );
    expect(await screen.findByRole('button', { name: 'save this view' })).toBeVisible();
  });

  it('keep the typed name when it is taken', async () => {
    const { user } = await show(() => {
      throw new Refusal(422, { code: 'rejected', title: 'There is a view of that name.' });
    });
    await user.click(screen.getByRole('button', { name: 'save this view' }));
    await user.type(screen.getByLabelText('Name of the view'), 'Mine{Enter}');
    expect(await screen.findByText('There is a view of that name.')).toBeInTheDocument();
    expect(screen.getByLabelText('Name of the view')).toHaveValue('Mine');
  });

  it('are removed', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'Remove the view Mine' }));
    await waitFor(() => expect(askedOf('DELETE /api/v1/orders/views/1')).toHaveLength(1));
  });
});
