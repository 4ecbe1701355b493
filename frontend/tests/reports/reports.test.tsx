import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { SchemaReportOut, SchemaWorkStepIn } from '@/api/types';
import { Lately, OrderReports, StepsEditor, VisitReport } from '@/features/reports';
import { at, draw } from '../drawn';
import { emptyReport, task } from '../field/reports';
import { Refusal, serve } from '../server';

const REPORT: SchemaReportOut = emptyReport({
  standings: [
    { kind: 'tasks', must: true, done: false, missing: ['Test ride'] },
    { kind: 'photos', must: false, done: false, missing: ['No photo'] },
    { kind: 'finish', must: true, done: false, missing: ['Finish'] },
  ],
  tasks: [task('Grease it', at(9, 12)), task('Test ride')],
  questions: [
    { key: 'gap', label: 'Door gap', kind: 'number', unit: 'mm' },
    { key: 'rust', label: 'Rust', kind: 'yes_no' },
  ],
  answers: [
    { key: 'gap', value: 5.5, at: at(9, 20), by: 'Ines Falk' },
    { key: 'rust', value: false, at: at(9, 21), by: 'Ines Falk' },
  ],
  notes: [{ reader: 'office', text: 'Gate is broken', at: at(9, 30), by: 'Ines Falk' }],
  pictures: [
    {
      id: 'a',
      kind: 'photo',
      caption: 'The sill',
      pair: 'before',
      question: '',
      original: 'o',
      size: 9,
      here: true,
      at: 1,
      by: 'I',
    },
    {
      id: 'o',
      kind: 'photo',
      caption: '',
      pair: '',
      question: '',
      original: null,
      size: 9,
      here: true,
      at: 1,
      by: 'I',
    },
    {
      id: 'b',
      kind: 'photo',
      caption: '',
      pair: '',
      question: '',
      original: null,
      size: 9,
      here: false,
      at: 1,
      by: 'I',
    },
    {
      id: 's',
      kind: 'signature',
      caption: '',
      pair: '',
      question: '',
      original: null,
      size: 9,
      here: true,
      at: 1,
      by: 'I',
    },
  ],
  acceptance: {
    ended: 'signed',
    name: 'Jonas Radley',
    rating: 4,
    words: 'Thank you',
    signature: 's',
    at: at(9, 50),
    by: 'Ines Falk',
  },
});

describe('a report at the office', () => {
  it('shows what is there, and names what has to be done and is not', async () => {
    serve({ 'GET /api/v1/reports/of-visit/7': REPORT });
    await draw(<VisitReport visitId={7} />);
    expect(await screen.findByText('Tasks: Test ride')).toBeVisible();
    expect(screen.queryByText(/No photo/)).toBeNull();
    expect(screen.getByText('5.5 mm')).toBeVisible();
    expect(screen.getByText('no')).toBeVisible();
    expect(screen.getByText('Gate is broken')).toBeVisible();
    expect(screen.getByRole('img', { name: 'The sill' })).toHaveAttribute(
      'src',
      '/api/v1/reports/pictures/a',
    );
    expect(screen.getByText('still on the phone')).toBeVisible();
    expect(screen.getByRole('link', { name: 'without the drawing' })).toHaveAttribute(
      'href',
      '/api/v1/reports/pictures/o',
    );
    expect(screen.getAllByRole('img')).toHaveLength(2);
    expect(screen.getByText(/Signed by Jonas Radley, 4 of 5/)).toBeVisible();
    expect(screen.getByRole('img', { name: 'Signature of Jonas Radley' })).toBeVisible();
  });

  it('says that nothing is recorded yet', async () => {
    serve({ 'GET /api/v1/reports/of-visit/7': emptyReport({ state: 'en_route' }) });
    await draw(<VisitReport visitId={7} />);
    expect(await screen.findByText('Nothing is recorded at this visit yet.')).toBeVisible();
  });

  it('says why it cannot be shown', async () => {
    serve({
      'GET /api/v1/reports/of-visit/7': () => {
        throw new Refusal(404, { code: 'no_visit', title: 'There is no such visit.' });
      },
    });
    await draw(<VisitReport visitId={7} />);
    expect(await screen.findByText('There is no such visit.')).toBeVisible();
  });

  it('has one for each visit of an order', async () => {
    serve({
      'GET /api/v1/reports/of-order/3': [REPORT, emptyReport({ visit_id: 8, part: 2, state: 'open' })],
    });
    await draw(<OrderReports orderId={3} />);
    expect(await screen.findByRole('heading', { name: 'Reports' })).toBeVisible();
    expect(screen.getByRole('heading', { name: /Visit 2/ })).toBeVisible();
  });
});

it('leads from each line of what happened to where it comes from', async () => {
  serve({
    'GET /api/v1/reports/lately': [{ words: 'Door gap: 9 mm', order_id: 3, at: at(8), pressing: true }],
  });
  await draw(<Lately visit_id={7} />);
  expect(await screen.findByRole('link', { name: /^Door gap: 9 mm/ })).toHaveAttribute('href', '/orders/3');
});

function Editor({ onSteps }: { onSteps: (steps: SchemaWorkStepIn[]) => void }) {
  const [steps, setSteps] = useState<SchemaWorkStepIn[]>([]);
  const change = (next: SchemaWorkStepIn[]) => {
    setSteps(next);
    onSteps(next);
  };
  return <StepsEditor steps={steps} onChange={change} />;
}

describe('composing the steps of the work', () => {
  const kinds = (steps: SchemaWorkStepIn[]) =>
    steps.map(({ kind, must }) => (must ? `${kind}!` : kind)).join(' ');

  it('begins with the usual ones; each may be needed, moved, left out and added', async () => {
    let now: SchemaWorkStepIn[] = [];
    const { user } = await draw(<Editor onSteps={(next) => (now = next)} />);
    await user.click(await screen.findByRole('checkbox', { name: 'Tasks has to be done' }));
    expect(kinds(now)).toBe(
      'know depart! arrive! form tasks! photos parts time charges notes acceptance finish!',
    );
    await user.click(screen.getByRole('button', { name: 'Tasks earlier' }));
    await user.click(screen.getByRole('button', { name: 'Without Form' }));
    await user.click(screen.getByRole('button', { name: 'Photos later' }));
    expect(kinds(now)).toBe('know depart! arrive! tasks! parts photos time charges notes acceptance finish!');
    await user.selectOptions(screen.getByLabelText('Add a step'), 'Form');
    expect(kinds(now)).toBe(
      'know depart! arrive! tasks! parts photos time charges notes acceptance form finish!',
    );
    await user.click(screen.getByRole('button', { name: 'Take the usual steps' }));
    expect(now).toEqual([]);
  });

  it('keeps the way of a visit whole and in its order', async () => {
    await draw(<Editor onSteps={() => undefined} />);
    const row = within(await screen.findByRole('list', { name: 'Steps of the work' }));
    for (const name of [
      'Without Set out',
      'Without Finish',
      'Set out later',
      'Arrive earlier',
      'Customer’s acceptance later',
    ])
      expect(row.getByRole('button', { name })).toBeDisabled();
    expect(row.getByRole('checkbox', { name: 'Arrive has to be done' })).toBeDisabled();
  });
});
