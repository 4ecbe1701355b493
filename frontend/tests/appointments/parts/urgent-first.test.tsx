import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { OpenThere } from '@/features/intake/OpenThere';
import { UrgentFirst } from '@/features/appointments/UrgentFirst';
import { at, draw } from '../../drawn';
import { serve } from '../../server';

const ines = { technician_id: 1, name: 'Ines Falk', start: at(10, 55), drive_seconds: 600, doing: 'free' };
const urgent = (more = {}) => ({ respond_by: at(11, 25), minutes: 45, first: [ines], ...more });

describe('work that cannot wait', () => {
  it('says until when, who could be there first, and leads to giving it', async () => {
    const onGive = vi.fn();
    const { user } = await draw(<UrgentFirst urgent={urgent()} busy={false} onGive={onGive} />);
    const part = await screen.findByRole('alert', { name: 'Urgent' });
    expect(part).toHaveTextContent(/Respond within 45 min: by 11:25.*Ines Falk 10:55, in 15 min · free/);
    await user.click(screen.getByRole('button', { name: /choose who goes now/ }));
    expect(onGive).toHaveBeenCalledOnce();
  });

  it('says so when nobody can be there in time, or at all', async () => {
    await draw(<UrgentFirst urgent={urgent({ respond_by: at(10, 50) })} busy={false} onGive={undefined} />);
    expect(await screen.findByText(/Nobody can be there in time/)).toBeVisible();
    expect(screen.queryByRole('button')).toBeNull();
  });
});

describe('what is open there already', () => {
  const show = (requests: unknown[], visits: unknown[]) => {
    serve({
      'GET /api/v1/requests': { rows: requests, next: null },
      'GET /api/v1/orders/open/site/9': visits,
    });
    return draw(<OpenThere siteId={9} assetId={4} requestId={2} />);
  };
  const request = (id: number, asset: number | null) => ({
    id,
    number: `R-${id}`,
    asset: asset ? { id: asset } : null,
    what_is_wrong: 'Squeaks',
  });
  const visit = {
    visit_id: 7,
    order_id: 5,
    label: 'W-5',
    title: 'Noisy door',
    asset_id: null,
    state: 'open',
    promise: null,
    start: null,
    technician: null,
  };

  it('is listed, without the request that is worked on', async () => {
    await show([request(2, null), request(3, null)], [visit]);
    const part = await screen.findByRole('region', { name: 'Open there already' });
    expect(part).toHaveTextContent(
      /Open at this site already · 2.*R-3 waits: Squeaks.*W-5 Noisy door · nobody assigned/,
    );
  });

  it('is loudest on the same equipment', async () => {
    await show([request(3, 4)], []);
    expect(await screen.findByText(/Open on this equipment already · 1/)).toBeVisible();
  });
});
