// The sheet of skills: where one is in it, and what a key does there.

export interface Cell {
  row: number;
  column: number;
}

/** Where an arrow leads, within the sheet; the same cell where it leads nowhere. */
export function moved(key: string, { row, column }: Cell, rows: number, columns: number): Cell {
  const to = (r: number, c: number): Cell => ({
    row: Math.min(Math.max(r, 0), rows - 1),
    column: Math.min(Math.max(c, 0), columns - 1),
  });
  switch (key) {
    case 'ArrowUp':
      return to(row - 1, column);
    case 'ArrowDown':
    case 'Enter':
      return to(row + 1, column);
    case 'ArrowLeft':
      return to(row, column - 1);
    case 'ArrowRight':
      return to(row, column + 1);
    case 'Home':
      return to(row, 0);
    case 'End':
      return to(row, columns - 1);
    default:
      return { row, column };
  }
}

/** The level that a key sets: 1 to 5, null for none; undefined: it sets nothing. */
export function levelOf(key: string): number | null | undefined {
  if (/^[1-5]$/.test(key)) return Number(key);
  return ['0', 'Delete', 'Backspace'].includes(key) ? null : undefined;
}
