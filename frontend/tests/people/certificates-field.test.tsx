import { screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { CertificatesField } from '@/features/people';
import { draw } from '../drawn';
import { serve } from '../server';

function Form({ first }: { first: string[] }) {
  const [names, setNames] = useState(first);
  return (
    <>
      <CertificatesField names={names} onChange={setNames} />
      <output>{names.join('; ')}</output>
    </>
  );
}

const show = (first: string[] = []) => {
  serve({
    'GET /api/v1/people/certificates': [
      { name: 'First aid', holders: 7 },
      { name: 'Rope access', holders: 0 },
    ],
  });
  return draw(<Form first={first} />);
};

describe('the certificates a job type asks for', () => {
  it('are chosen from those that somebody holds, each once', async () => {
    const { user } = await show();
    await screen.findByRole('option', { name: 'Rope access' });
    await user.selectOptions(screen.getByLabelText('Add a certificate'), 'Rope access');
    expect(screen.getByRole('status')).toHaveTextContent('Rope access');
    expect(screen.queryByRole('option', { name: 'Rope access' })).toBeNull();
  });

  it('say how many hold a valid one, and when nobody does', async () => {
    await show(['First aid', 'Rope access', 'Diving']);
    expect(await screen.findByText('held by 7')).toBeVisible();
    expect(screen.getAllByText('nobody holds a valid one')).toHaveLength(2);
  });

  it('may be one that nobody holds yet, typed and kept with Enter', async () => {
    const { user } = await show();
    await user.selectOptions(await screen.findByLabelText('Add a certificate'), 'another one…');
    await user.type(screen.getByLabelText('Name of the certificate'), '  Diving {Enter}');
    expect(screen.getByRole('status')).toHaveTextContent(/^Diving$/);
  });

  it('are taken off again', async () => {
    const { user } = await show(['First aid']);
    await user.click(await screen.findByRole('button', { name: 'Remove First aid' }));
    expect(screen.getByRole('status')).toBeEmptyDOMElement();
  });
});
