import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Problem } from '@/api/client';
import { TextField } from '@/design/Field';
import { focusFirstWrong, FormError } from '@/design/FormError';

const seen = vi.fn();
beforeEach(() => {
  seen.mockClear();
  Element.prototype.scrollIntoView = function (this: Element) {
    seen(this);
  };
});

const refused = (field: string) =>
  new Problem(422, 'rejected', 'The warranty ends before it begins.', field, []);

function Form({ error }: { error: unknown }) {
  return (
    <form aria-label="Equipment">
      <TextField name="kind" label="Kind" hint="Lift, door, gate" />
      <details>
        <summary>More</summary>
        <TextField name="warranty_until" label="Warranty until" hint="The last day" />
      </details>
      <FormError error={error} />
      <button>Keep</button>
    </form>
  );
}

describe('why a form was refused', () => {
  it('brings the field it is about into view and into focus, unfolds it, and tells of it', () => {
    render(<Form error={refused('warranty_until')} />);
    const field = screen.getByLabelText('Warranty until');
    expect(field).toHaveFocus();
    expect(seen).toHaveBeenCalledWith(field);
    expect(field).toBeInvalid();
    expect(field).toHaveAccessibleDescription('The warranty ends before it begins.');
    expect(field.closest('details')).toHaveAttribute('open');
    expect(screen.getByRole('alert')).toHaveTextContent('The warranty ends before it begins.');
  });

  it('unmarks the field as soon as something else is typed, and gives it its own words back', async () => {
    render(<Form error={refused('kind')} />);
    await userEvent.type(screen.getByLabelText('Kind'), 'Lift');
    expect(screen.getByLabelText('Kind')).not.toBeInvalid();
    expect(screen.getByLabelText('Kind')).toHaveAccessibleDescription('Lift, door, gate');
  });

  it('unmarks it when another try went well, or failed for another reason', () => {
    const { rerender } = render(<Form error={refused('kind')} />);
    rerender(<Form error={refused('warranty_until')} />);
    expect(screen.getByLabelText('Kind')).not.toBeInvalid();
    rerender(<Form error={null} />);
    expect(screen.getByLabelText('Warranty until')).not.toBeInvalid();
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('without a field brings itself into view and leaves the focus where it is', () => {
    render(<Form error={refused('somewhere')} />);
    expect(document.body).toHaveFocus();
    expect(seen).toHaveBeenCalledTimes(1);
  });
});

it('goes to the first of several fields that are wrong', async () => {
  render(
    <form>
      <TextField label="Length" />
      <TextField label="Crew" error="1 to 8" />
      <TextField label="Worth" error="Whole money" />
    </form>,
  );
  focusFirstWrong();
  await waitFor(() => expect(screen.getByLabelText('Crew')).toHaveFocus());
});
