// What has been picked so far: without React, tested without a browser.

import type { SchemaPickedIn, SchemaPickOut } from '@/api/types';

interface Taken {
  quantity: number;
  serials: string[];
  batch: string;
}

/** By code of the part. */
export type Basket = Record<string, Taken>;

export const emptyBasket: Basket = {};

const NOTHING: Taken = { quantity: 0, serials: [], batch: '' };

/** Whether all of it is in the basket. */
export const isWhole = (basket: Basket, row: SchemaPickOut) =>
  (basket[row.code]?.quantity ?? 0) >= row.quantity;

/** One more of what was scanned; with a problem where it is not wanted, or one too many. */
export function scanned(
  basket: Basket,
  picks: readonly SchemaPickOut[],
  code: string,
  serial: string,
): { basket: Basket; problem: string } {
  const row = picks.find((one) => one.code === code);
  if (!row) return { basket, problem: 'not on this list' };
  const own = basket[code] ?? NOTHING;
  if (own.quantity >= row.quantity) return { basket, problem: `${row.quantity} are enough` };
  if (row.tracking === 'serial number') {
    if (!serial) return { basket, problem: 'scan its serial number' };
    if (own.serials.includes(serial)) return { basket, problem: 'scanned already' };
  }
  const serials = serial ? [...own.serials, serial] : own.serials;
  return { basket: { ...basket, [code]: { ...own, quantity: own.quantity + 1, serials } }, problem: '' };
}

/** What is booked: of what was promised only the whole of it. */
export function picked(basket: Basket, picks: readonly SchemaPickOut[]): SchemaPickedIn[] {
  return picks
    .filter((row) => (row.transfer_id ? isWhole(basket, row) : (basket[row.code]?.quantity ?? 0) > 0))
    .map((row) => ({
      code: row.code,
      quantity: row.transfer_id ? row.quantity : Math.min(row.quantity, basket[row.code]!.quantity),
      serials: basket[row.code]!.serials,
      batch: basket[row.code]!.batch.trim(),
      transfer_id: row.transfer_id,
    }));
}
