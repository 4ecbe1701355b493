import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { WriteAbout } from '@/features/messages';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const WRITE = 'POST /api/v1/visits/7/messages';
const sent = { name: 'Ines Falk', channel: 'push' };

describe('a few words about a visit', () => {
  it('go to the customer, and the field is empty again', async () => {
    serve({ [WRITE]: { ...sent, name: 'Seagate Stores', channel: 'text' } });
    const { user } = await draw(<WriteAbout visitId={7} customer="Seagate Stores" technician={null} />);
    await user.click(await screen.findByRole('button', { name: 'Write to the customer' }));
    await user.type(screen.getByLabelText('To Seagate Stores'), 'We are ten minutes late.');
    await user.click(screen.getByRole('button', { name: 'Send these words' }));
    await waitFor(() => expect(screen.queryByRole('form')).toBeNull());
    expect(askedOf(WRITE)[0]!.body).toEqual({ to: 'customer', text: 'We are ten minutes late.' });
    expect(await screen.findByText('Written to Seagate Stores by text')).toBeInTheDocument();
  });

  it('go to the technician by first name, if somebody goes', async () => {
    serve({ [WRITE]: sent });
    const { user } = await draw(<WriteAbout visitId={7} customer="Seagate" technician="Ines Falk" />);
    await user.click(await screen.findByRole('button', { name: 'Write to Ines' }));
    await user.type(screen.getByLabelText('To Ines Falk'), 'Ring twice');
    await user.click(screen.getByRole('button', { name: 'Send these words' }));
    await waitFor(() => expect(askedOf(WRITE)[0]?.body).toEqual({ to: 'technician', text: 'Ring twice' }));
  });

  it('stay where they are when they reach nobody', async () => {
    const title = 'Neither a phone number nor an e-mail address of Seagate is known.';
    serve({
      [WRITE]: () => {
        throw new Refusal(422, { code: 'rejected', title, field: 'to' });
      },
    });
    const { user } = await draw(<WriteAbout visitId={7} customer="Seagate" technician={null} />);
    await user.click(await screen.findByRole('button', { name: 'Write to the customer' }));
    await user.type(screen.getByLabelText('To Seagate'), 'Hello');
    await user.click(screen.getByRole('button', { name: 'Send these words' }));
    expect(await screen.findByRole('alert')).toHaveTextContent(title);
    expect(screen.getByLabelText('To Seagate')).toHaveValue('Hello');
  });

  it('cannot be empty', async () => {
    serve({});
    const { user } = await draw(<WriteAbout visitId={7} customer="Seagate" technician={null} />);
    expect(screen.queryByRole('button', { name: /Write to Ines/ })).toBeNull();
    await user.click(await screen.findByRole('button', { name: 'Write to the customer' }));
    await user.type(screen.getByLabelText('To Seagate'), '   ');
    expect(screen.getByRole('button', { name: 'Send these words' })).toBeDisabled();
  });
});
