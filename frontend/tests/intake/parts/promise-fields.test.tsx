import { screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import type { Standby } from '@/features/intake/model';
import { StandbyFields, TellCustomer } from '@/features/intake/PromiseFields';
import { at, draw } from '../../drawn';
import { serve } from '../../server';

let kept: Standby;
function Fields({ start }: { start: Standby }) {
  const [standby, setStandby] = useState(start);
  kept = standby;
  return <StandbyFields standby={standby} onChange={setStandby} />;
}
const OFF: Standby = { on: false, part: '', notBefore: '', notice: '' } as Standby;

describe('standby', () => {
  it('asks for its conditions only once it is wanted', async () => {
    serve({});
    const { user } = await draw(<Fields start={OFF} />);
    const tick = await screen.findByLabelText(/Would come earlier/);
    expect(screen.queryByLabelText('Standby: which half of the day')).toBeNull();
    await user.click(tick);
    await user.selectOptions(screen.getByLabelText('Standby: which half of the day'), 'mornings');
    await user.type(screen.getByLabelText('Standby: call so long before'), '30');
    expect(kept).toMatchObject({ on: true, part: 'morning', notice: '30' });
  });

  it('keeps what was said when it is put off and on again', async () => {
    serve({});
    const { user } = await draw(<Fields start={{ ...OFF, on: true, part: 'afternoon' }} />);
    const tick = await screen.findByLabelText(/Would come earlier/);
    await user.click(tick);
    await user.click(tick);
    expect(screen.getByLabelText('Standby: which half of the day')).toHaveValue('afternoon');
  });
});

describe('what the customer is told', () => {
  const show = async (window: { start: number; end: number } | null) => {
    serve({
      'GET /api/v1/company/settings': {
        settings: [{ key: 'message_promised', value: '{company}: {job} at {site} {window}.' }],
      },
    });
    const onTell = vi.fn();
    const part = (
      <TellCustomer
        tell
        onTell={onTell}
        window={window}
        site={{ name: 'Seagate Hall' } as never}
        customer={undefined}
        job="Noisy door"
      />
    );
    return { ...(await draw(part)), onTell };
  };

  it('is read before it is sent, in the words of the company', async () => {
    const { user, onTell } = await show({ start: at(13), end: at(15) });
    expect(
      await screen.findByText(
        'Test Lifts: Noisy door at Seagate Hall on Fri 27 Nov between 13:00 and 15:00.',
      ),
    ).toBeVisible();
    await user.click(screen.getByRole('checkbox'));
    expect(onTell).toHaveBeenCalledWith(false);
  });

  it('is nothing while nothing is promised', async () => {
    await show(null);
    await new Promise((done) => setTimeout(done, 30));
    expect(screen.queryByRole('checkbox')).toBeNull();
  });
});
