import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Planner } from '@/features/scheduling/runs/Planner';
import { at, draw, TODAY } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { board } from '../../board/worlds';

const RUNS = 'POST /api/v1/runs';
const run = (id: number, more = {}) => ({
  id,
  kind: 'fill',
  first_day: TODAY,
  days: 1,
  technician_id: null,
  playbook_name: 'Keep promises',
  seconds: 5,
  seed: 1,
  state: 'done',
  share: 1,
  iterations: 0,
  cost: null,
  failure: '',
  asked_at: at(10),
  accepted_at: null,
  ...more,
});

const show = async (
  props: Partial<Parameters<typeof Planner>[0]> = {},
  more: Record<string, unknown> = {},
) => {
  serve({
    'GET /api/v1/playbooks': {
      playbooks: [
        { id: 1, name: 'Keep promises', is_default: true },
        { id: 2, name: 'Least driving', is_default: false },
      ],
    },
    'GET /api/v1/runs': {
      rows: [run(3, { accepted_at: at(10) }), run(2, { state: 'stopped', kind: 'repair' })],
      next: null,
    },
    'GET /api/v1/company': { currency: 'EUR', areas: [{ id: 1, name: 'Millrace' }] },
    [RUNS]: run(9, { state: 'queued' }),
    ...more,
  });
  const on = { onLeft: vi.fn(), onRun: vi.fn(), onShow: vi.fn(), onVisit: vi.fn() };
  const part = (
    <Planner
      board={board()}
      day={TODAY}
      runId={0}
      who={undefined}
      wanted={undefined}
      only={undefined}
      left={new Set()}
      {...on}
      {...props}
    />
  );
  return { ...(await draw(part)), ...on };
};
const body = () => askedOf(RUNS)[0]?.body;
const ask = (user: { click: (e: Element) => Promise<void> }) =>
  user.click(screen.getByRole('button', { name: 'Make a proposal' }));

describe('asking the planner', () => {
  it('fills the gaps of everybody unless it is told otherwise', async () => {
    const { user, onRun } = await show();
    await screen.findByLabelText(/Fill gaps/);
    await ask(user);
    await waitFor(() => expect(onRun).toHaveBeenCalledWith(9));
    expect(body()).toMatchObject({ kind: 'fill', day: TODAY, days: 1, technician_id: null, area_id: null });
  });

  it('plans what waits in one area, by another playbook, with more time', async () => {
    const { user } = await show();
    await user.click(await screen.findByLabelText('Plan the open work'));
    await screen.findByRole('option', { name: 'Millrace' });
    await user.selectOptions(screen.getByLabelText('What waits in'), 'Millrace');
    await user.selectOptions(screen.getByLabelText('Playbook'), 'Least driving');
    await user.selectOptions(screen.getByLabelText('Think for'), '20');
    await user.selectOptions(screen.getByLabelText('From this day, for'), '3');
    await ask(user);
    await waitFor(() =>
      expect(body()).toMatchObject({ kind: 'plan', area_id: 1, playbook_id: 2, seconds: 20, days: 3 }),
    );
  });

  it('puts one day in order only when it is said whose', async () => {
    const { user } = await show();
    await user.click(await screen.findByLabelText('Put one day in order'));
    expect(screen.getByRole('button', { name: 'Make a proposal' })).toBeDisabled();
    expect(screen.queryByLabelText('What waits in')).toBeNull();
    await user.selectOptions(screen.getByLabelText('Whose day'), 'Ines Falk');
    await ask(user);
    await waitFor(() =>
      expect(body()).toMatchObject({ kind: 'improve', technician_id: 1, days: 1, seconds: 2 }),
    );
  });

  it('begins with what it was opened for: a repair, somebody, the chosen visits', async () => {
    await show({ wanted: 'repair' });
    expect(await screen.findByLabelText(/^Repair the day/)).toBeChecked();
  });

  it('begins with the chosen visits', async () => {
    const { user } = await show({ only: [4, 5] });
    expect(await screen.findByText(/2 chosen visits/)).toBeVisible();
    await ask(user);
    await waitFor(() => expect(body()).toMatchObject({ kind: 'plan', visit_ids: [4, 5] }));
  });

  it('says what cannot be done', async () => {
    const { user, onRun } = await show(
      {},
      {
        [RUNS]: () => {
          throw new Refusal(422, { code: 'rejected', title: 'Nothing waits in Millrace.', field: 'area_id' });
        },
      },
    );
    await screen.findByLabelText(/Fill gaps/);
    await ask(user);
    expect(await screen.findByText('Nothing waits in Millrace.')).toBeInTheDocument();
    expect(onRun).not.toHaveBeenCalled();
  });

  it('lists earlier runs with what became of them', async () => {
    const { user, onRun } = await show();
    expect(await screen.findByText(/Fill gaps from the backlog, Fri 27 Nov, accepted/)).toBeVisible();
    await user.click(screen.getByText(/Repair the day, Fri 27 Nov, stopped/));
    expect(onRun).toHaveBeenCalledWith(2);
  });
});

describe('a run', () => {
  const running = (more: object) =>
    show({ runId: 9 }, { 'GET /api/v1/runs/9': { ...run(9, more), proposal: null } });

  it('shows how far it is, and can be stopped', async () => {
    serve({});
    const { user } = await show(
      { runId: 9 },
      {
        'GET /api/v1/runs/9': { ...run(9, { state: 'running', share: 0.4 }), proposal: null },
        'POST /api/v1/runs/9/stop': run(9, { state: 'stopped' }),
      },
    );
    expect(await screen.findByRole('progressbar', { name: 'Progress' })).toHaveAttribute('value', '0.4');
    await user.click(screen.getByRole('button', { name: /Stop/ }));
    await waitFor(() => expect(askedOf('POST /api/v1/runs/9/stop')).toHaveLength(1));
  });

  it('that failed says why', async () => {
    await running({ state: 'failed', failure: 'It killed two workers.' });
    expect(await screen.findByText('It killed two workers.')).toBeVisible();
  });

  it('leads to another one', async () => {
    const { user, onRun } = await running({ state: 'stopped' });
    await user.click(await screen.findByRole('button', { name: 'Ask for another' }));
    expect(onRun).toHaveBeenCalledWith(0);
  });
});
