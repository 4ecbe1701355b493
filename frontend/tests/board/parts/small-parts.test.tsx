import { screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Legend } from '@/features/board/lanes/Legend';
import { VerdictSlip } from '@/features/board/lanes/VerdictSlip';
import { ViewMenu } from '@/features/board/lanes/ViewMenu';
import { WhyDialog } from '@/features/board/lanes/WhyDialog';
import { SiteCard } from '@/features/board/map/SiteCard';
import { at, draw } from '../../drawn';
import { serve } from '../../server';
import { laneDay } from '../worlds';

describe('the slip beside what is dragged', () => {
  const verdict = (count: number) =>
    ({
      allowed: true,
      reasons: Array.from({ length: count }, (_, index) => ({
        weight: index === 0 ? 'asks' : 'note',
        sentence: `reason ${index}`,
        limit: null,
      })),
      timetable: laneDay().timetable,
      extra_drive_seconds: 0,
    }) as Parameters<typeof VerdictSlip>[0]['verdict'];
  const show = async (more: Partial<Parameters<typeof VerdictSlip>[0]>) => {
    serve({});
    await draw(
      <VerdictSlip
        who="Ines Falk"
        start={at(11)}
        several={false}
        together={1}
        verdict={undefined}
        error={null}
        at={{ x: 100, y: 100 }}
        {...more}
      />,
    );
    return screen.findByTestId('verdict');
  };

  it('says who, when, and each reason by sign and words', async () => {
    const slip = await show({ verdict: verdict(2) });
    expect(slip).toHaveTextContent('Ines Falk11:00');
    expect(within(slip).getByLabelText('asks for a reason')).toBeInTheDocument();
    expect(within(slip).getByLabelText('note')).toBeInTheDocument();
  });

  it('names the day too when several are shown', async () => {
    expect(await show({ several: true, verdict: verdict(1) })).toHaveTextContent('Fri 27 Nov 11:00');
  });

  it('stays readable when there is much to say', async () => {
    const slip = await show({ verdict: verdict(10) });
    expect(within(slip).getAllByRole('listitem')).toHaveLength(8);
    expect(slip).toHaveTextContent('and 3 more');
  });

  it('says that it asks, what went wrong, or that several go at once', async () => {
    expect(await show({})).toHaveTextContent('asking…');
  });

  it('says what went wrong', async () => {
    expect(await show({ error: 'No connection.' })).toHaveTextContent('No connection.');
  });

  it('of several says that what becomes of each is read first', async () => {
    expect(await show({ together: 4 })).toHaveTextContent('4 visits at once');
  });

  it('keeps out of the way at the right edge', async () => {
    const slip = await show({ at: { x: window.innerWidth - 10, y: 100 } });
    expect(Number.parseInt(slip.style.left)).toBeLessThan(window.innerWidth - 300);
  });
});

describe('a limit that a person may override', () => {
  it('is only overridden with a reason', async () => {
    serve({});
    const on = { onSay: vi.fn(), onClose: vi.fn() };
    const { user } = await draw(<WhyDialog reasons={['1 h after the promise 08:00–10:00']} {...on} />);
    const dialog = await screen.findByRole('dialog', { name: 'There all the same?' });
    expect(dialog).toHaveTextContent('1 h after the promise 08:00–10:00');
    const place = within(dialog).getByRole('button', { name: 'Place it there' });
    expect(place).toBeDisabled();
    await user.type(within(dialog).getByLabelText('Why'), '  they agreed {Enter}');
    expect(on.onSay).toHaveBeenCalledWith('they agreed');
    await user.click(within(dialog).getByRole('button', { name: 'Cancel' }));
    expect(on.onClose).toHaveBeenCalled();
  });
});

describe('the legend', () => {
  it('explains every sign in words, the hues on screen, and every key', async () => {
    serve({});
    const hues = new Map([['Millrace', 'var(--hue-1)']]);
    await draw(<Legend open onOpenChange={vi.fn()} hues={hues} />);
    const key = await screen.findByRole('dialog', { name: 'Legend' });
    for (const words of [
      'driving, with its minutes',
      'overtime',
      'absent, with the reason',
      'holiday: nobody has a shift',
      'a reminder; faint when done',
      'nobody knows how long it takes',
      'a part is not on the van',
      'tied to another visit',
      'locked: no plan moves it',
      'tight: kept less than nine times in ten',
      'Millrace',
      'the openings of the selected visit',
      'undo (Shift: redo), 50 deep',
    ])
      expect(key).toHaveTextContent(words);
  });
});

describe('how the board is drawn', () => {
  it.each([
    ['Columns', '15', { column: 15 }],
    ['Technicians', 'crew', { group: 'crew' }],
    ['Beside a name', 'wide', { heads: 'wide' }],
    ['Sorted by', 'driving', { sort: 'driving' }],
    ['Written on a visit', 'job_site', { label: 'job_site' }],
    ['Hue of a visit', 'worth', { hue: 'worth' }],
  ])('is a choice of %s', async (label, value, wanted) => {
    serve({});
    const change = vi.fn();
    const { user } = await draw(<ViewMenu search={{}} change={change} />);
    await user.click(await screen.findByRole('button', { name: 'Drawing' }));
    await user.selectOptions(await screen.findByLabelText(label), value);
    expect(change).toHaveBeenCalledWith(wanted);
  });

  it('leaves nothing in the address that is as usual', async () => {
    serve({});
    const change = vi.fn();
    const { user } = await draw(<ViewMenu search={{ hue: 'area', label: 'job' }} change={change} />);
    await user.click(await screen.findByRole('button', { name: 'Drawing' }));
    await user.selectOptions(await screen.findByLabelText('Hue of a visit'), 'none');
    await user.selectOptions(screen.getByLabelText('Written on a visit'), 'site');
    expect(change.mock.calls).toEqual([[{ hue: undefined }], [{ label: undefined }]]);
  });
});

describe('a site that was pointed at', () => {
  it('says where it is, whose, and asks what waits near', async () => {
    serve({});
    const site = {
      id: 3,
      name: 'Seagate Hall',
      address: 'Millrace Road 60',
      lon: 0,
      lat: 0,
      customer_id: 5,
      customer_name: 'Seagate Stores',
    };
    const on = { onNear: vi.fn(), onClose: vi.fn() };
    const { user } = await draw(<SiteCard site={site} {...on} />);
    const card = await screen.findByRole('region', { name: 'Site Seagate Hall' });
    expect(card).toHaveTextContent('Millrace Road 60');
    expect(within(card).getByRole('link', { name: 'Seagate Stores' })).toHaveAttribute(
      'href',
      '/customers/5',
    );
    await user.click(within(card).getByRole('button', { name: 'What waits near it?' }));
    expect(on.onNear).toHaveBeenCalled();
    await user.click(within(card).getByRole('button', { name: 'Close the site' }));
    expect(on.onClose).toHaveBeenCalled();
  });
});
