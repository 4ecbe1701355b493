import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { QuestionsEditor } from '@/features/company';
import type { Question } from '@/shared/questions';
import { draw } from '../drawn';
import { serve } from '../server';

let kept: Question[] = [];
function Editor({ first, for_ }: { first: Question[]; for_: 'record' | 'checklist' }) {
  const [questions, setQuestions] = useState(first);
  kept = questions;
  return <QuestionsEditor questions={questions} onChange={setQuestions} for_={for_} />;
}
const ask = (key: string, label: string, more: Partial<Question> = {}): Question => ({
  key,
  label,
  kind: 'text',
  required: 'never',
  choices: [],
  shown_if: null,
  ...more,
});
const show = async (first: Question[], for_: 'record' | 'checklist' = 'record') => {
  serve({});
  return draw(<Editor first={first} for_={for_} />);
};
const group = (number: number) => screen.findByRole('group', { name: `Question ${number}` });

describe('composing questions without code', () => {
  it('adds one with a key that is free', async () => {
    const { user } = await show([ask('question_2', 'Floors')]);
    await user.click(await screen.findByRole('button', { name: 'Add a question' }));
    expect(kept.map((row) => row.key)).toEqual(['question_2', 'question_3']);
    await user.type(within(await group(2)).getByLabelText('Words'), 'Is the pit dry?');
    expect(kept[1]!.label).toBe('Is the pit dry?');
  });

  it('asks for choices and for limits where the kind has them', async () => {
    const { user } = await show([ask('a', 'Grade'), ask('b', 'Load')]);
    const [first, second] = [await group(1), await group(2)];
    await user.selectOptions(within(first).getByLabelText('Kind'), 'choice');
    await user.type(within(first).getByLabelText('Choices'), 'gold,silver');
    await user.selectOptions(within(second).getByLabelText('Kind'), 'number');
    await user.type(within(second).getByLabelText('At least'), '100');
    await user.type(within(second).getByLabelText('Unit'), 'kg');
    expect(kept[0]!.choices).toEqual(['gold', 'silver']);
    expect(kept[1]).toMatchObject({ least: 100, unit: 'kg' });
    await user.clear(within(second).getByLabelText('At least'));
    expect(kept[1]!.least).toBeNull();
  });

  it('asks on a condition: only of what was asked before, yes or no and choices', async () => {
    const { user } = await show([
      ask('dry', 'Dry?', { kind: 'yes_no' }),
      ask('name', 'Name'),
      ask('depth', 'How deep?'),
    ]);
    const asked = within(await group(3)).getByLabelText('Asked if');
    expect(
      within(asked)
        .getAllByRole('option')
        .map((row) => row.textContent),
    ).toEqual(['always asked', 'if Dry?: yes', 'if Dry?: no']);
    await user.selectOptions(asked, 'if Dry?: no');
    expect(kept[2]!.shown_if).toEqual(['dry', false]);
    expect(within(await group(1)).queryByLabelText('Asked if')).toBeNull();
  });

  it('moves questions and takes them away', async () => {
    const { user } = await show([ask('a', 'First'), ask('b', 'Second'), ask('c', 'Third')]);
    expect(within(await group(1)).getByRole('button', { name: 'Up' })).toBeDisabled();
    await user.click(within(await group(3)).getByRole('button', { name: 'Up' }));
    expect(kept.map((row) => row.key)).toEqual(['a', 'c', 'b']);
    await user.click(screen.getByRole('button', { name: 'Remove First' }));
    expect(kept.map((row) => row.key)).toEqual(['c', 'b']);
  });

  it('has signatures in checklists only, and what is needed to create in records only', async () => {
    await show([ask('a', 'First')], 'checklist');
    const checklist = await group(1);
    expect(within(checklist).getByRole('option', { name: 'signature' })).toBeInTheDocument();
    expect(within(checklist).queryByRole('option', { name: 'needed to create' })).toBeNull();
  });

  it('of a record has no signatures', async () => {
    await show([ask('a', 'First')]);
    const record = await group(1);
    expect(within(record).queryByRole('option', { name: 'signature' })).toBeNull();
    expect(within(record).getByRole('option', { name: 'needed to create' })).toBeInTheDocument();
  });
});
