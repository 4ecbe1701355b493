import { fireEvent, render, screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { DataTable, type Column } from '@/design/DataTable';
import { draw } from '../drawn';

interface Row {
  id: number;
  name: string;
}
const COLUMNS: Column<Row>[] = [
  {
    key: 'name',
    title: 'Name',
    width: 8,
    words: (row) => row.name,
    draw: (row) => <a href="/x">{row.name}</a>,
  },
  { key: 'twice', title: 'Twice', width: 6, words: (row) => String(2 * row.id) },
];
const rows = (count: number) => Array.from({ length: count }, (_, id) => ({ id, name: `Row ${id}` }));
const keyOf = (row: Row) => row.id;

describe('a table', () => {
  it('draws the rows that can be seen, and says how many there are', async () => {
    await draw(<DataTable label="Rows" columns={COLUMNS} rows={rows(5000)} keyOf={keyOf} />);
    const table = await screen.findByRole('table', { name: 'Rows' });
    expect(table).toHaveAttribute('aria-rowcount', '5001');
    expect(within(table).getAllByRole('row').length).toBeLessThan(80);
    expect(within(table).getByRole('columnheader', { name: 'Twice' })).toBeVisible();
    expect(within(table).getByRole('cell', { name: 'Row 3' })).toHaveAttribute('title', 'Row 3');
  });

  it('asks for more near its end, and only there', async () => {
    const onNearEnd = vi.fn();
    const { unmount } = render(
      <DataTable label="Long" columns={COLUMNS} rows={rows(500)} keyOf={keyOf} onNearEnd={onNearEnd} />,
    );
    expect(onNearEnd).not.toHaveBeenCalled();
    unmount();
    render(<DataTable label="Short" columns={COLUMNS} rows={rows(12)} keyOf={keyOf} onNearEnd={onNearEnd} />);
    expect(onNearEnd).toHaveBeenCalled();
  });

  it('is walked with the arrow keys', async () => {
    await draw(<DataTable label="Rows" columns={COLUMNS} rows={rows(30)} keyOf={keyOf} />);
    const link = (number: number) => screen.getByRole('link', { name: `Row ${number}` });
    (await screen.findByRole('link', { name: 'Row 0' })).focus();
    fireEvent.keyDown(link(0), { key: 'ArrowDown' });
    expect(link(1)).toHaveFocus();
    fireEvent.keyDown(link(1), { key: 'ArrowUp' });
    expect(link(0)).toHaveFocus();
    fireEvent.keyDown(link(0), { key: 'ArrowUp' });
    expect(link(0)).toHaveFocus();
  });
});
