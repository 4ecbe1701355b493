import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaAction } from '@/api/types';
import { SkillsPage, TagsPage } from '@/features/company/names/NamesPage';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const SKILLS = 'GET /api/v1/people/skills';
const name = (code: string, words: string, more = {}) => ({
  code,
  name: words,
  retired: false,
  version: 1,
  holders: 2,
  ...more,
});
const show = (more: Record<string, unknown> = {}, may: SchemaAction[] = ['use', 'change_settings']) => {
  serve({
    [SKILLS]: [
      name('doors', 'Door drives'),
      name('gates', 'Gates', { holders: 0 }),
      name('ropes', 'Rope work'),
    ],
    'GET /api/v1/people/skills/doors/uses': [
      { what: 'visits', count: 1240 },
      { what: 'job types', count: 3 },
    ],
    'GET /api/v1/people/skills/gates/uses': [],
    'PUT /api/v1/people/skills/doors': name('doors', 'Doors', { version: 2 }),
    'POST /api/v1/people/skills/doors/merge': name('ropes', 'Rope work', { version: 1 }),
    'POST /api/v1/people/skills': name('new', 'Welding'),
    ...more,
  });
  return draw(<SkillsPage />, { may });
};
const choose = async (user: Awaited<ReturnType<typeof show>>['user'], words: RegExp) =>
  user.click(await screen.findByRole('button', { name: words }));

describe('what a company names', () => {
  it('says how many people have it, and who else uses the chosen one', async () => {
    const { user } = await show();
    expect(await screen.findByRole('button', { name: /^Gates\s*nobody$/ })).toBeVisible();
    await choose(user, /^Door drives/);
    expect(await screen.findByText('Used by 1,240 visits, 3 job types.')).toBeVisible();
    await choose(user, /^Gates/);
    expect(await screen.findByText('Nobody uses it.')).toBeVisible();
  });

  it('is added, and what was typed stays when it is refused', async () => {
    const { user } = await show({
      'POST /api/v1/people/skills': () => {
        throw new Refusal(422, { code: 'rejected', title: 'That cannot be a skill.', field: 'name' });
      },
    });
    await user.type(await screen.findByLabelText('New skill'), 'Welding{Enter}');
    expect(await screen.findByText('That cannot be a skill.')).toBeVisible();
    expect(screen.getByLabelText('New skill')).toHaveValue('Welding');
  });

  it('is renamed with the version that was seen', async () => {
    const { user } = await show();
    await choose(user, /^Door drives/);
    const form = within(screen.getByRole('form', { name: 'Rename' }));
    expect(form.getByRole('button')).toBeDisabled();
    await user.clear(form.getByLabelText('Name'));
    await user.type(form.getByLabelText('Name'), 'Doors{Enter}');
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/people/skills/doors')[0]?.body).toEqual({
        name: 'Doors',
        retired: false,
        version: 1,
      }),
    );
  });

  it('is retired under the name it has', async () => {
    const { user } = await show();
    await choose(user, /^Door drives/);
    await user.click(screen.getByRole('button', { name: 'Retire it' }));
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/people/skills/doors')[0]?.body).toEqual({
        name: 'Door drives',
        retired: true,
        version: 1,
      }),
    );
  });

  it('is merged only after it was said what becomes of whom', async () => {
    const { user } = await show();
    await choose(user, /^Door drives/);
    expect(screen.queryByRole('button', { name: /^Merge/ })).toBeNull();
    await user.selectOptions(screen.getByLabelText('Merge into'), 'Rope work');
    expect(screen.getByText(/Whoever uses Door drives will use Rope work/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Merge Door drives into Rope work' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/people/skills/doors/merge')[0]?.body).toEqual({
        into: 'ropes',
        version: 1,
      }),
    );
  });

  it('is only read by whoever may not change the set-up', async () => {
    const { user } = await show({}, ['use']);
    await choose(user, /^Door drives/);
    expect(await screen.findByText(/^Used by/)).toBeVisible();
    expect(screen.queryByRole('form')).toBeNull();
    expect(screen.queryByRole('button', { name: 'Retire it' })).toBeNull();
  });

  it('may be nothing yet', async () => {
    serve({ 'GET /api/v1/company/tags': [] });
    await draw(<TagsPage />, { may: ['use'] });
    expect(await screen.findByText('There are none yet.')).toBeVisible();
  });
});
