import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { Progress } from '@/features/customers/files/Progress';
import { draw } from '../../drawn';
import { askedOf, serve } from '../../server';

const file = (more = {}) => ({
  id: 4,
  kind: 'customers',
  name: 'list.csv',
  state: 'read',
  share: 1,
  counts: { new: 2, change: 1, refused: 1 },
  failure: '',
  uploaded_at: 0,
  rows: [{ line: 5, becomes: 'refused', words: 'Marram', notes: [], problems: ['name is empty'] }],
  columns: { Firm: 'name', Shoe: '' },
  choices: ['name', 'phone'],
  needed: ['name'],
  outcome: {},
  refused: [],
  stop_asked: false,
  ...more,
});
const show = (given: unknown, more = {}) => {
  serve({ 'GET /api/v1/customers/import/4': given, ...more });
  return draw(<Progress id={4} />);
};

describe('a file of customers', () => {
  it('says what it would make, and gives the refused rows back', async () => {
    await show(file());
    expect(await screen.findByRole('button', { name: 'Bring in 3 rows' })).toBeEnabled();
    expect(screen.getByRole('link', { name: 'The refused rows as a file' })).toHaveAttribute(
      'href',
      '/api/v1/customers/import/4/refused.csv',
    );
    expect(screen.getByRole('table')).toHaveTextContent('5refusedMarramname is empty');
  });

  it('asks what the headings mean, and sends what was said', async () => {
    const asks = file({
      state: 'columns',
      failure: 'Say which column is name.',
      columns: { Firm: '', Shoe: '' },
    });
    const { user } = await show(asks, {
      'POST /api/v1/customers/import/4/columns': file({ state: 'reading' }),
    });
    expect(await screen.findByText('Say which column is name.')).toBeVisible();
    const form = screen.getByRole('form', { name: 'Headings' });
    expect(within(form).getByText('Needed, and not named yet: name')).toBeVisible();
    expect(within(form).getByRole('button')).toBeDisabled();
    await user.selectOptions(within(form).getByLabelText('Shoe'), 'name');
    await user.selectOptions(within(form).getByLabelText('Firm'), 'name');
    expect(within(form).getByText('Two headings are name: choose one.')).toBeVisible();
    await user.selectOptions(within(form).getByLabelText('Shoe'), 'leave it out');
    await user.click(within(form).getByRole('button', { name: 'Read it with these' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/customers/import/4/columns')[0]?.body).toEqual({
        columns: { Firm: 'name', Shoe: '' },
      }),
    );
  });

  it('is stopped while it comes in', async () => {
    const { user } = await show(file({ state: 'importing', share: 0.4 }), {
      'POST /api/v1/customers/import/4/stop': file({ state: 'importing', stop_asked: true }),
    });
    expect(await screen.findByText('40 %')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Stop' }));
    expect(await screen.findByRole('button', { name: 'Stopping…' })).toBeDisabled();
  });

  it('says what came in before it was stopped, leads there, and goes on', async () => {
    const stopped = file({ state: 'stopped', outcome: { new: 200, change: 60, refused: 3 } });
    const { user } = await show(stopped, {
      'POST /api/v1/customers/import/4/accept': file({ state: 'importing' }),
    });
    expect(await screen.findByText(/260 brought in: 200 new, 60 changed/)).toHaveTextContent('Stopped.');
    expect(screen.getByRole('link', { name: 'See the customers' })).toHaveAttribute('href', '/customers');
    await user.click(screen.getByRole('button', { name: 'Go on' }));
    await waitFor(() => expect(askedOf('POST /api/v1/customers/import/4/accept')).toHaveLength(1));
  });

  it('says why it failed', async () => {
    await show(file({ state: 'failed', failure: 'It failed: the disk is full.' }));
    expect(await screen.findByText('It failed: the disk is full.')).toBeVisible();
    expect(screen.queryByRole('button', { name: 'Go on' })).toBeNull();
  });
});
