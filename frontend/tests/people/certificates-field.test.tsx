import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { CertificatesField } from '@/features/people';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

function Form({ first }: { first: string[] }) {
  const [codes, setCodes] = useState(first);
  return (
    <>
      <CertificatesField codes={codes} onChange={setCodes} />
      <output>{codes.join('; ')}</output>
    </>
  );
}

const MAKE = 'POST /api/v1/people/certificates';
const DIVING = { code: 'diving', name: 'Diving', retired: false, holders: 0 };

const show = (first: string[] = [], made: unknown = DIVING) => {
  serve({
    'GET /api/v1/people/certificates': [
      { code: 'aid', name: 'First aid', retired: false, holders: 7 },
      { code: 'ropes', name: 'Rope access', retired: false, holders: 0 },
      { code: 'old', name: 'Old paper', retired: true, holders: 0 },
    ],
    [MAKE]: made,
  });
  return draw(<Form first={first} />);
};

describe('the certificates a job type asks for', () => {
  it('are chosen from those that somebody holds, each once', async () => {
    const { user } = await show();
    await screen.findByRole('option', { name: 'Rope access' });
    await user.selectOptions(screen.getByLabelText('Add a certificate'), 'Rope access');
    expect(screen.getByRole('status')).toHaveTextContent('ropes');
    expect(screen.queryByRole('option', { name: 'Rope access' })).toBeNull();
  });

  it('say how many hold a valid one, and when nobody does', async () => {
    await show(['aid', 'ropes', 'unheard-of']);
    expect(await screen.findByText('held by 7')).toBeVisible();
    expect(screen.getAllByText('nobody holds a valid one')).toHaveLength(2);
  });

  it('may be one that nobody holds yet, typed and kept with Enter', async () => {
    const { user } = await show();
    await user.selectOptions(await screen.findByLabelText('Add a certificate'), 'another one…');
    await user.type(screen.getByLabelText('Name of the certificate'), '  Diving {Enter}');
    await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent(/^diving$/));
    expect(askedOf(MAKE)[0]?.body).toEqual({ name: 'Diving' });
  });

  it('of a new kind stay as typed when they cannot be made', async () => {
    const { user } = await show([], () => {
      throw new Refusal(403, { code: 'not_permitted', title: 'Only an administrator may do that.' });
    });
    await user.selectOptions(await screen.findByLabelText('Add a certificate'), 'another one…');
    await user.type(screen.getByLabelText('Name of the certificate'), 'Diving{Enter}');
    expect(await screen.findByText('Only an administrator may do that.')).toBeVisible();
    expect(screen.getByLabelText('Name of the certificate')).toHaveValue('Diving');
  });

  it('that are retired are no longer offered', async () => {
    await show();
    await screen.findByRole('option', { name: 'First aid' });
    expect(screen.queryByRole('option', { name: 'Old paper' })).toBeNull();
  });

  it('are taken off again', async () => {
    const { user } = await show(['aid']);
    await user.click(await screen.findByRole('button', { name: 'Remove First aid' }));
    expect(screen.getByRole('status')).toBeEmptyDOMElement();
  });
});
