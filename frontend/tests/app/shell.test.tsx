import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { Shell } from '@/app/Shell';
import { useCommandField, useCommandKey } from '@/shared/command';
import { draw } from '../drawn';
import { serve } from '../server';

const show = (may?: Parameters<typeof draw>[1]) => {
  serve({
    'GET /api/v1/board/attention': { matters: [], total: 0 },
    'GET /api/v1/requests': { items: [], next: null },
    'GET /api/v1/messages': { items: [], next: null },
    'GET /api/v1/health/parts': { worker: true, planner: true },
    'GET /api/v1/customers': [],
    'GET /api/v1/visits': [
      { id: 7, order_id: 31, number: 'O-7', title: 'Noisy door', site: 'Seagate Hall', start: null },
    ],
  });
  return draw(<Shell />, may);
};

describe('the frame of the office', () => {
  it('leads to the places of the role', async () => {
    await show();
    const links = within(await screen.findByRole('navigation', { name: 'Places' })).getAllByRole('link');
    expect(links.map((link) => link.textContent)).toEqual([
      'Requests',
      'Quotes',
      'Board',
      'Orders',
      'Customers',
    ]);
  });

  it('finds an order from any page, by key or by button, and goes there', async () => {
    const { user, router } = await show();
    await screen.findByRole('navigation', { name: 'Places' });
    fireEvent.keyDown(document.body, { key: 'k', ctrlKey: true });
    await user.type(await screen.findByPlaceholderText(/Order, customer/), 'seagate');
    await user.click(await screen.findByText(/Noisy door/));
    await waitFor(() => expect(router.state.location.pathname).toBe('/orders/31'));
    await user.click(screen.getByRole('button', { name: 'Find or do anything' }));
    expect(await screen.findByPlaceholderText(/Order, customer/)).toBeVisible();
  });

  it('reaches what does not stand at the top', async () => {
    const { user, router } = await show();
    await user.click(await screen.findByRole('button', { name: 'Find or do anything' }));
    await user.type(await screen.findByPlaceholderText(/Order, customer/), 'holi');
    await user.keyboard('{Enter}');
    await waitFor(() => expect(router.state.location.pathname).toBe('/set-up/holidays'));
  });

  it('keeps theme and leaving behind the name', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'Dora Quill, dispatcher' }));
    expect(screen.getAllByRole('menuitem').map((item) => item.textContent)).toEqual([
      'Dark theme',
      'Your account',
      'Sign out',
    ]);
  });
});

function Page() {
  const [open, setOpen] = useState(false);
  useCommandField(() => setOpen(true));
  return <p>{open ? 'the own field of the page' : 'a page'}</p>;
}

it('leaves Ctrl K to a page that has a field of its own', async () => {
  serve({});
  await draw(<Frame />);
  await screen.findByText('a page');
  fireEvent.keyDown(document.body, { key: 'K', metaKey: true });
  expect(await screen.findByText('the own field of the page')).toBeVisible();
  expect(screen.queryByText('the field of the frame')).toBeNull();
});

function Frame() {
  const [open, setOpen] = useState(false);
  useCommandKey();
  useCommandField(() => setOpen(true), { frame: true });
  return (
    <>
      {open && <p>the field of the frame</p>}
      <Page />
    </>
  );
}
