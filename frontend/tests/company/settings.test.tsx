import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { SettingsPage } from '@/features/company/settings/SettingsPage';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const setting = (key: string, kind: string, value: unknown, more = {}) => ({
  key,
  kind,
  value,
  name: key.replaceAll('_', ' '),
  group: 'Offering a time',
  explanation: `What ${key} does.`,
  unit: '',
  choices: [],
  words: [],
  ...more,
});
const SETTINGS = {
  version: 3,
  settings: [
    setting('offers_least', 'number', 40, { unit: 'points' }),
    setting('tags', 'list', ['key account'], { group: 'Words' }),
    setting('message_sent', 'long_text', 'We come {window}.', { group: 'Words', words: ['window', 'site'] }),
    setting('hours', 'week', ['07:00-18:00', '', '', '', '', '', ''], { group: 'Words' }),
    setting('channels', 'choices', ['text'], { group: 'Words', choices: ['text', 'e-mail'] }),
  ],
};
const KEEP = 'POST /api/v1/company/settings';

const show = async (keep: unknown = { ...SETTINGS, version: 4 }, canChange = true) => {
  serve({ 'GET /api/v1/company/settings': SETTINGS, [KEEP]: keep });
  const drawn = await draw(<SettingsPage />, { may: canChange ? ['use', 'change_settings'] : ['use'] });
  await screen.findByRole('heading', { name: 'Settings' });
  return drawn;
};
const save = () => screen.getByRole('button', { name: 'Save settings' });

describe('settings', () => {
  it('stand in their groups, each with what it does', async () => {
    await show();
    const group = screen.getByRole('group', { name: 'Offering a time' });
    expect(group).toHaveTextContent('What offers_least does.');
    expect(within(group).getByLabelText('offers least')).toHaveValue('40');
  });

  it('are found by words of their name, group and what they do; what was changed stays in sight', async () => {
    const { user } = await show();
    const least = screen.getByLabelText('offers least');
    await user.clear(least);
    await user.type(least, '55');
    await user.type(screen.getByLabelText('Find a setting'), 'words does tags');
    expect(screen.getByLabelText('tags')).toBeVisible();
    expect(screen.queryByLabelText('hours')).toBeNull();
    expect(screen.getByLabelText('offers least')).toHaveValue('55');
    expect(screen.getByRole('status')).toHaveTextContent('2 of 5');
    await user.type(screen.getByLabelText('Find a setting'), ' qqq');
    expect(screen.getByRole('status')).toHaveTextContent('1 of 5');
  });

  it('are sent with what was changed alone', async () => {
    const { user } = await show();
    expect(save()).toBeDisabled();
    const least = screen.getByLabelText('offers least');
    await user.clear(least);
    await user.type(least, '55');
    await user.click(save());
    await waitFor(() =>
      expect(askedOf(KEEP)[0]?.body).toEqual({ version: 3, changes: { offers_least: 55 } }),
    );
  });

  it('say at its place what a setting cannot be, and keep what was typed', async () => {
    const { user } = await show(() => {
      throw new Refusal(422, { code: 'rejected', title: 'That is 0 to 100.', field: 'offers_least' });
    });
    const least = screen.getByLabelText('offers least');
    await user.clear(least);
    await user.type(least, 'many');
    await user.click(save());
    expect(await screen.findByRole('alert')).toHaveTextContent('That is 0 to 100.');
    expect(screen.getByLabelText('offers least')).toHaveValue('many');
  });

  it('show how a message would read', async () => {
    const { user } = await show();
    const text = screen.getByLabelText('message sent');
    await user.type(text, ' To {{site}.');
    expect(
      screen.getByText(/We come on Tue 24 Nov between 08:00 and 10:00\. To Ferry Terminal\./),
    ).toBeVisible();
    expect(screen.getByText('Words: {window} {site}')).toBeVisible();
  });

  it('take lists a line each, days one by one, and choices by ticks', async () => {
    const { user } = await show();
    await user.type(screen.getByLabelText('tags'), '{Enter}  VIP  {Enter}');
    await user.tab();
    await user.type(screen.getByLabelText('Tuesday'), '08:00-16:00');
    await user.click(screen.getByLabelText('e-mail'));
    await user.click(save());
    await waitFor(() => expect(askedOf(KEEP)).toHaveLength(1));
    expect((askedOf(KEEP)[0]!.body as { changes: Record<string, unknown> }).changes).toEqual({
      tags: ['key account', 'VIP'],
      hours: ['07:00-18:00', '08:00-16:00', '', '', '', '', ''],
      channels: ['text', 'e-mail'],
    });
  });

  it('go back to what they were', async () => {
    const { user } = await show();
    await user.type(screen.getByLabelText('offers least'), '9');
    await user.click(screen.getByRole('button', { name: 'As they were' }));
    expect(screen.getByLabelText('offers least')).toHaveValue('40');
    expect(save()).toBeDisabled();
  });

  it('are only read by whoever may not change them', async () => {
    await show({}, false);
    expect(screen.getByText('Only an administrator can change them.')).toBeVisible();
    expect(screen.getByLabelText('offers least')).toBeDisabled();
    expect(save()).toBeDisabled();
  });
});
