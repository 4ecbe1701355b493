import 'fake-indexeddb/auto';
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { FieldVisit } from '@/features/field/FieldVisit';
import { KeepGoing } from '@/features/field/KeepGoing';
import { typing } from '@/features/field/newVersion';
import { phoneOf } from '@/features/field/usePhone';
import { WorkPage } from '@/features/field/work/WorkPage';
import { at, draw, TODAY } from '../../drawn';
import { Refusal, serve } from '../../server';
import { detail } from '../../board/worlds';
import type { Report } from '@/features/field/sync/report';
import { emptyReport, needing, task } from '../reports';

vi.mock('@/features/field/work/smaller', () => ({
  smaller: (file: File) =>
    file.name === 'no.txt'
      ? Promise.reject(new Error('This is no picture.'))
      : Promise.resolve({ content: new Uint8Array([1, 2, 3]), media_type: 'image/jpeg' }),
}));
vi.mock('@/design/SignaturePad', () => ({
  SignaturePad: ({ onDraw }: { onDraw: (picture: string) => void }) => (
    <button onClick={() => onDraw(`data:image/png;base64,${btoa('drawn')}`)}>Draw</button>
  ),
}));

let account = 3_000;
beforeEach(() => {
  account += 1;
  globalThis.URL.createObjectURL = () => 'blob:here';
  globalThis.URL.revokeObjectURL = () => undefined;
});

const finish = { step: 'finish' as const, needs_note: true };
/** A page of a visit somebody is at, without a signal. */
function show(kind: string | null, report: Partial<Report>, more = {}) {
  const visit = detail(7, {
    state: 'on_site',
    technician_id: 1,
    title: 'Noisy door',
    actions: [finish],
    ...more,
  });
  serve({
    'GET /api/v1/field/visits/7': {
      ...visit,
      report: emptyReport(report),
      known: [],
      asked: [],
      sent: [],
      readers: [],
      ...more,
      lately: [{ words: 'Left open last time: Test ride', order_id: 3, at: at(8), pressing: true }],
      ahead: [
        { state: 'on_site', actions: [{ ...finish, to: 1 }] },
        { state: 'done', actions: [] },
      ],
    },
    'GET /api/v1/field/day': { technician_id: 1, day: TODAY, visits: [] },
    'GET /api/v1/quotes/at-visit/7': [],
    'GET /api/v1/session': { account: null },
    'POST /api/v1/field/phones': { id: 'x', key: btoa('k'.repeat(32)), now: at(10) * 1000 },
    'POST /api/v1/field/along': { names: [], news: [] },
    'POST /api/v1/field/deeds': () => {
      throw new Refusal(503, { code: 'busy', title: 'Try again.' });
    },
  });
  const page = (
    <>
      <KeepGoing />
      {kind ? <WorkPage /> : <FieldVisit />}
    </>
  );
  return draw(page, {
    path: kind ? `/field/7/work/${kind}` : '/field/7',
    route: kind ? '/field/$visitId/work/$kind' : '/field/$visitId',
    may: ['use', 'work_in_field'],
    account,
  });
}
const told = async () =>
  (await (await phoneOf(account)).journal.all()).map(({ deed }) => [deed.kind, deed.body]);

describe('the work at a visit', () => {
  it('is listed with what is done and what is needed, and finishing waits for what is needed', async () => {
    await show(null, { steps: needing('tasks'), tasks: [task('Grease it', at(9)), task('Test ride')] });
    const work = within(await screen.findByRole('navigation', { name: 'Work' }));
    expect(work.getByRole('link', { name: /Tasks · needed 1 of 2 done/ })).toBeVisible();
    expect(work.queryByText('Form')).toBeNull();
    expect(screen.queryByRole('button', { name: 'Finish' })).toBeNull();
    expect(screen.getByRole('link', { name: 'Tasks 1 of 2 done' })).toHaveAttribute(
      'href',
      '/field/7/work/tasks',
    );
  });

  it('is finished once everything that is needed is done', async () => {
    await show(null, { steps: needing('tasks'), tasks: [task('Grease it', at(9))] });
    expect(await screen.findByRole('button', { name: 'Finish' })).toBeVisible();
  });

  it('ticks tasks without a signal, and says what is next', async () => {
    const { user } = await show('tasks', {
      steps: needing('tasks', 'photos'),
      tasks: [task('Grease it'), task('Test ride')],
    });
    await user.click(await screen.findByRole('checkbox', { name: /Grease it/ }));
    await waitFor(() => expect(screen.getByRole('checkbox', { name: /Grease it/ })).toBeChecked());
    expect(await screen.findByText(/1 thing is still on this phone/)).toBeVisible();
    expect(screen.getByRole('link', { name: 'Next: Photos' })).toBeVisible();
    expect(await told()).toEqual([['task', { words: 'Grease it', done: true }]]);
  });

  it('asks about a number out of bounds, keeps what is typed, and shows what hangs on an answer', async () => {
    const questions = [
      { key: 'gap', label: 'Door gap', kind: 'number', unit: 'mm', least: 2, most: 8, required: 'to close' },
      { key: 'rust', label: 'Rust', kind: 'yes_no' },
      { key: 'where', label: 'Where is it?', kind: 'text', shown_if: ['rust', true] },
    ];
    const { user } = await show('form', { questions });
    await user.type(await screen.findByRole('textbox', { name: 'Door gap' }), '11');
    await waitFor(async () => expect(await (await phoneOf(account)).drafts.find('7 answer gap')).toBe('11'));
    await user.tab();
    expect(await screen.findByText('Usually at most 8 mm. Is 11 mm right?')).toBeVisible();
    expect(await told()).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'It is right' }));
    expect(screen.queryByRole('textbox', { name: 'Where is it?' })).toBeNull();
    await user.click(screen.getByRole('radio', { name: 'Yes' }));
    expect(await screen.findByRole('textbox', { name: 'Where is it?' })).toBeVisible();
    expect(await told()).toEqual([
      ['answer', { key: 'gap', value: 11, sure: true }],
      ['answer', { key: 'rust', value: true }],
    ]);
    await waitFor(async () => expect(await (await phoneOf(account)).drafts.find('7 answer gap')).toBeNull());
  });

  it('keeps three notes apart, each where it was written', async () => {
    const { user } = await show('notes', {});
    await user.type(await screen.findByLabelText('For the office'), 'gate is broken');
    await user.tab();
    await waitFor(async () =>
      expect(await told()).toEqual([['note', { reader: 'office', text: 'gate is broken' }]]),
    );
    expect(screen.getByLabelText('For the customer')).toHaveValue('');
  });

  it('opens again with what was being typed when the page was killed', async () => {
    serve({ 'POST /api/v1/field/phones': { id: 'x', key: btoa('k'.repeat(32)), now: at(10) * 1000 } });
    await (await phoneOf(account)).drafts.keep('7 note office', 'gate is br');
    const { user } = await show('notes', {});
    await waitFor(() => expect(screen.getByLabelText('For the office')).toHaveValue('gate is br'));
    // Written down, it is what stands there; what was found at first does not come back.
    await user.type(screen.getByLabelText('For the office'), 'oken');
    await user.tab();
    await waitFor(async () =>
      expect(await told()).toEqual([['note', { reader: 'office', text: 'gate is broken' }]]),
    );
    await waitFor(() => expect(screen.getByLabelText('For the office')).toHaveValue('gate is broken'));
    await user.click(screen.getByLabelText('For the office'));
    await user.tab();
    expect(await told()).toHaveLength(1);
  });

  it('takes several photos at once, and says why one cannot be taken', async () => {
    const { user } = await show('photos', {});
    const files = ['a.jpg', 'b.jpg'].map((name) => new File(['x'], name, { type: 'image/jpeg' }));
    await user.upload(await screen.findByLabelText('Choose photos'), files);
    expect(await screen.findByLabelText('What photo 2 shows')).toBeVisible();
    expect(await screen.findByText(/2 things and 2 pictures are still on this phone/)).toBeVisible();
    await user.click(screen.getAllByRole('button', { name: 'Before' })[0]!);
    await waitFor(() =>
      expect(screen.getAllByRole('button', { name: 'Before' })[0]).toHaveAttribute('aria-pressed', 'true'),
    );
    await user.click(screen.getAllByRole('button', { name: 'Leave out' })[1]!);
    await waitFor(() => expect(screen.queryByLabelText('What photo 2 shows')).toBeNull());
    await user.upload(
      screen.getByLabelText('Choose photos'),
      new File(['x'], 'no.txt', { type: 'image/png' }),
    );
    expect(await screen.findByText('This is no picture.')).toBeVisible();
  });

  it('shows the customer what was done, and takes their name and signature', async () => {
    const { user } = await show('acceptance', { tasks: [task('Grease it', at(9)), task('Test ride')] });
    expect(await screen.findByText('Grease it')).toBeVisible();
    expect(screen.queryByText('Test ride')).toBeNull();
    const sign = screen.getByRole('button', { name: 'Sign' });
    await user.type(screen.getByLabelText('Your name'), 'Jonas Radley');
    expect(sign).toBeDisabled();
    await user.click(screen.getByRole('button', { name: 'Draw' }));
    await user.click(screen.getByRole('radio', { name: '5' }));
    await user.click(sign);
    expect(await screen.findByRole('heading', { name: 'Signed' })).toBeVisible();
    const [picture, acceptance] = (await told()) as [string, Record<string, unknown>][];
    expect(picture).toMatchObject(['picture', { kind: 'signature', media_type: 'image/png' }]);
    expect(acceptance).toMatchObject([
      'acceptance',
      { ended: 'signed', name: 'Jonas Radley', rating: 5, signature: picture![1].id, shown: ['Grease it'] },
    ]);
  });

  it('takes down why nobody signed', async () => {
    const { user } = await show('acceptance', {});
    await user.click(await screen.findByRole('button', { name: 'Nobody signs' }));
    await user.type(screen.getByLabelText('Why does nobody sign?'), 'Gone home');
    await user.click(screen.getByRole('button', { name: 'Nobody is there' }));
    expect(await screen.findByRole('heading', { name: 'Nobody was there to sign' })).toBeVisible();
  });

  it('sends the report to whom is chosen or typed, also without a signal', async () => {
    const acceptance = {
      ...{ ended: 'signed', name: 'Jonas Radley', rating: 5, words: '', signature: null },
      ...{ at: at(10), by: 'Dora Quill' },
    };
    const { user } = await show(
      'acceptance',
      { acceptance },
      { readers: [{ name: 'Jonas Radley', address: 'radley@seagate.example' }] },
    );
    const form = within(await screen.findByRole('form', { name: 'Send the report' }));
    expect(form.getByRole('button', { name: 'Send' })).toBeDisabled();
    await user.click(form.getByRole('button', { name: /radley@seagate/ }));
    await user.type(form.getByLabelText('Another e-mail address'), 'not one');
    expect(form.getByText(/An e-mail address, as/)).toBeVisible();
    await user.clear(form.getByLabelText('Another e-mail address'));
    await user.type(form.getByLabelText('Another e-mail address'), 'desk@seagate.example');
    await user.click(form.getByRole('button', { name: 'Send to 2 addresses' }));
    expect(await form.findByText('radley@seagate.example: on its way')).toBeVisible();
    expect(await told()).toEqual([
      ['send report', { addresses: ['radley@seagate.example', 'desk@seagate.example'] }],
    ]);
  });

  it('shows what the office could not take in, with its words', async () => {
    await show(null, {});
    const { journal } = await phoneOf(account);
    const { id } = await journal.write({
      kind: 'note',
      visitId: 7,
      body: { reader: 'office', text: 'gate is broken' },
      basedOn: null,
      where: null,
    });
    await journal.settle([{ id, outcome: 'refused', sentence: 'It is too long.' }]);
    expect(await screen.findByText(/The office could not take this in/)).toBeVisible();
    expect(screen.getByText(/note for the office: gate is broken: It is too long\./)).toBeVisible();
  });

  it('keeps the words of a step while they are typed, until it is written down', async () => {
    const { user } = await show(null, {});
    await user.click(await screen.findByRole('button', { name: 'Finish' }));
    await user.type(screen.getByLabelText('What was done?'), 'greased');
    const { drafts } = await phoneOf(account);
    await waitFor(async () => expect(await drafts.find('7 finish')).toBe('greased'));
    expect(typing()).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Finish' }));
    await waitFor(async () => expect(await drafts.find('7 finish')).toBeNull());
    expect(await told()).toEqual([['step', { step: 'finish', note: 'greased' }]]);
  });

  it('is known once it was looked at', async () => {
    await show('know', { looked: false }, { description: 'Stuck on floor 2', access_notes: 'Ring twice' });
    expect(await screen.findByText('Ring twice')).toBeVisible();
    expect(screen.getByText(/Left open last time: Test ride/)).toBeVisible();
    await waitFor(async () => expect(await told()).toContainEqual(['look', {}]));
  });
});
