import { expect, it } from 'vitest';
import { columnsOf } from '@/features/orders/page/links';

it('stands a visit to the right of what it comes after, and together what starts together', () => {
  const after = (id: number, first_id: number, second_id: number) =>
    ({ id, kind: 'after', first_id, second_id }) as const;
  const columns = columnsOf(
    [1, 2, 3, 4],
    [after(1, 1, 2), after(2, 2, 3), { id: 3, kind: 'together', first_id: 3, second_id: 4 }],
  );
  expect([1, 2, 3, 4].map((id) => columns.get(id))).toEqual([0, 1, 2, 2]);
});

it('leaves the columns alone for the same technician', () => {
  const columns = columnsOf([1, 2], [{ id: 1, kind: 'same_technician', first_id: 1, second_id: 2 }]);
  expect([columns.get(1), columns.get(2)]).toEqual([0, 0]);
});
