import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { Problem } from '@/api/client';
import {
  Form,
  FormArea,
  FormCheck,
  FormDay,
  FormSelect,
  FormText,
  FormTime,
  KeepOrLeave,
  useKeptForm,
} from '@/design/form';
import { draw } from '../drawn';

const schema = z.object({
  name: z.string().trim().min(1, 'It needs a name.'),
  note: z.string(),
  kind: z.string(),
  day: z.string(),
  start: z.number().nullable(),
  sure: z.boolean(),
});
const VALUES = { name: 'Gate', note: '', kind: 'door', day: '2026-12-02', start: 510, sure: false };

function Example({
  keep,
  onLeave,
}: {
  keep: (read: z.output<typeof schema>) => Promise<unknown>;
  onLeave?: () => void;
}) {
  const [values, setValues] = useState(VALUES);
  const kept = useKeptForm({ schema, values, keep });
  return (
    <Form kept={kept} label="Example">
      <FormText name="name" label="Name" />
      <FormArea name="note" label="Note" />
      <FormSelect name="kind" label="Kind">
        <option>door</option>
        <option>gate</option>
      </FormSelect>
      <FormDay name="day" label="Day" />
      <FormTime name="start" label="Start" base={600} />
      <FormCheck name="sure" words="Sure" />
      <KeepOrLeave words="Keep" {...(onLeave && { onLeave })} />
      <button type="button" onClick={() => setValues({ ...VALUES, name: 'Big gate', note: 'Said by Ada' })}>
        somebody else
      </button>
    </Form>
  );
}

const show = async (keep = vi.fn(async () => undefined as unknown)) => ({
  keep,
  ...(await draw(<Example keep={keep} onLeave={vi.fn()} />)),
});
const press = () => screen.getByRole('button', { name: 'Keep' });

describe('a form', () => {
  it('keeps what is typed, read as it must be', async () => {
    const { user, keep } = await show();
    const name = await screen.findByLabelText('Name');
    await user.clear(name);
    await user.type(name, '  Rolling gate ');
    await user.selectOptions(screen.getByLabelText('Kind'), 'gate');
    await user.clear(screen.getByLabelText('Day'));
    await user.type(screen.getByLabelText('Day'), '4.12');
    await user.clear(screen.getByLabelText('Start'));
    await user.type(screen.getByLabelText('Start'), '+45');
    await user.click(screen.getByLabelText('Sure'));
    await user.click(press());
    await waitFor(() => expect(keep).toHaveBeenCalled());
    expect(keep).toHaveBeenCalledWith(
      {
        name: 'Rolling gate',
        note: '',
        kind: 'gate',
        day: '2026-12-04',
        start: 645,
        sure: true,
      },
      expect.anything(),
    );
  });

  it('is not sent while something in it cannot be, and leads there', async () => {
    const { user, keep } = await show();
    await user.clear(await screen.findByLabelText('Name'));
    await user.click(press());
    expect(await screen.findByText('It needs a name.')).toBeVisible();
    expect(screen.getByLabelText('Name')).toHaveFocus();
    expect(screen.getByLabelText('Name')).toHaveAccessibleDescription('It needs a name.');
    expect(keep).not.toHaveBeenCalled();
  });

  it.each([
    ['Day', 'someday', /^A day, like/],
    ['Start', 'noonish', /^A time, like/],
  ])('is held back by a %s that cannot be read', async (label, typed, words) => {
    const { user, keep } = await show();
    const field = await screen.findByLabelText(label);
    await user.clear(field);
    await user.type(field, typed);
    await user.click(press());
    expect(await screen.findByText(words)).toBeVisible();
    expect(keep).not.toHaveBeenCalled();
    await user.type(field, '{Escape}');
    await user.click(press());
    await waitFor(() => expect(keep).toHaveBeenCalled());
  });

  it('says at the field what the server refused, and keeps what was typed', async () => {
    const keep = vi.fn(async () => {
      throw new Problem(422, 'rejected', 'There is one of that name.', 'name');
    });
    const { user } = await show(keep);
    await user.type(await screen.findByLabelText('Name'), ' 2');
    await user.click(press());
    expect(await screen.findByText('There is one of that name.')).toBeVisible();
    expect(screen.getByLabelText('Name')).toHaveValue('Gate 2');
    expect(screen.getByLabelText('Name')).toBeInvalid();
  });

  it('lets in what others change, but not over what somebody is typing', async () => {
    const { user } = await show();
    await user.type(await screen.findByLabelText('Name'), ' of ours');
    await user.click(screen.getByRole('button', { name: 'somebody else' }));
    await waitFor(() => expect(screen.getByLabelText('Note')).toHaveValue('Said by Ada'));
    expect(screen.getByLabelText('Name')).toHaveValue('Gate of ours');
  });
});
