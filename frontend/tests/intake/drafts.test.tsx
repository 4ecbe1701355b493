import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { render } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { UnfinishedCalls } from '@/features/intake/UnfinishedCalls';
import { currentCall, DraftOf, dropDraft, keyOf, useDraft, useDrafts } from '@/features/intake/drafts';
import { draw } from '../drawn';

const WHO = 'ivo@example.org';

function Words() {
  const [need, setNeed] = useDraft('need', { whatIsWrong: '' });
  return (
    <input
      aria-label="words"
      value={need.whatIsWrong}
      onChange={(e) => setNeed({ whatIsWrong: e.target.value })}
    />
  );
}

const write = (key: string, who = WHO) =>
  render(
    <DraftOf value={{ who, key }}>
      <Words />
    </DraftOf>,
  );

beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
});

describe('what is typed in intake', () => {
  it('is there again when the page is drawn anew, for the same person and the same call only', async () => {
    const first = write('call 1');
    await userEvent.type(screen.getByLabelText('words'), 'Gate hums');
    first.unmount();
    const second = write('call 1');
    expect(screen.getByLabelText('words')).toHaveValue('Gate hums');
    second.unmount();
    const other = write('call 1', 'dora@example.org');
    expect(screen.getByLabelText('words')).toHaveValue('');
    other.unmount();
    write('call 2');
    expect(screen.getByLabelText('words')).toHaveValue('');
  });

  it('is forgotten when it was thrown away, or taken back letter by letter', async () => {
    const { unmount } = write('call 1');
    await userEvent.type(screen.getByLabelText('words'), 'x');
    await userEvent.clear(screen.getByLabelText('words'));
    expect(localStorage.getItem(`iron-relay.intake.${WHO}`)).toBe('{}');
    await userEvent.type(screen.getByLabelText('words'), 'y');
    unmount();
    expect(dropDraft(WHO, 'call 1')?.title).toBe('y');
    write('call 1');
    expect(screen.getByLabelText('words')).toHaveValue('');
  });

  it('survives a broken store', () => {
    localStorage.setItem(`iron-relay.intake.${WHO}`, '{broken');
    write('call 1');
    expect(screen.getByLabelText('words')).toHaveValue('');
  });

  it('belongs to a request, a customer, or the call of this tab', () => {
    expect(keyOf(7, null)).toBe('request 7');
    expect(keyOf(null, 9)).toBe('customer 9');
    expect(keyOf(null, null)).toBe(currentCall());
  });
});

describe('what was begun and not sent', () => {
  const keep = (...keys: string[]) => {
    const parts = { need: { whatIsWrong: 'Gate hums' } };
    const drafts = Object.fromEntries(
      keys.map((key, at) => [key, { key, at: 1_795_741_200 + at, title: `about ${key}`, parts }]),
    );
    localStorage.setItem(`iron-relay.intake.${WHO}`, JSON.stringify(drafts));
  };

  it('is not listed while there is none but the one on the screen', async () => {
    keep('call 1');
    await draw(<UnfinishedCalls who={WHO} current="call 1" />);
    expect(screen.queryByRole('region', { name: 'Unfinished' })).toBeNull();
  });

  it('is taken up again where it belongs', async () => {
    keep('call 1', 'request 7');
    const { user, router } = await draw(<UnfinishedCalls who={WHO} current="call 9" />);
    await user.click(await screen.findByRole('button', { name: /^about request 7/ }));
    await waitFor(() => expect(router.state.location.search).toEqual({ request: 7 }));
    await user.click(screen.getByRole('button', { name: /^about call 1/ }));
    expect(currentCall()).toBe('call 1');
  });

  it('is thrown away in one press, and put back in one', async () => {
    keep('call 1');
    const Count = () => <p>{useDrafts(WHO).length} kept</p>;
    const { user } = await draw(
      <>
        <UnfinishedCalls who={WHO} current="" />
        <Count />
      </>,
    );
    await user.click(await screen.findByRole('button', { name: 'Throw away: about call 1' }));
    expect(await screen.findByText('0 kept')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(await screen.findByText('1 kept')).toBeVisible();
  });
});
