// Lines as they are typed: of a quote, an order, a job type. What they come to is the server's to say.

import type {
  SchemaDiscountIn,
  SchemaDocumentLineIn,
  SchemaDocumentLineOut,
  SchemaItemOut,
} from '@/api/types';
import { amountText, parseAmount } from '@/shared/money';

/** Something off: a percentage or an amount, as typed ("10" or "25.00"). */
export interface TypedDiscount {
  name: string;
  by: 'percent' | 'amount';
  much: string;
  until: string;
  key: string;
}

/** One line. `price` empty: what the price list says. */
export interface TypedLine {
  key: string;
  item: string;
  wording: string;
  quantity: string;
  unit: string;
  price: string;
  cost: string;
  effort: string;
  tax: string;
  tag: string;
  discount: TypedDiscount | null;
  optional: boolean;
  chosen: boolean;
}

/** Lines and discounts on the whole, that are counted together. */
export interface TypedSet {
  lines: TypedLine[];
  discounts: TypedDiscount[];
}

const BARE = {
  item: '',
  wording: '',
  quantity: '1',
  unit: 'C62',
  price: '',
  cost: '',
  effort: '',
  tax: '',
  tag: '',
  discount: null,
  optional: false,
  chosen: false,
};

/** A key that none of the lines has; what was removed is not taken again. */
export function newKey(lines: readonly { key: string }[]): string {
  const numbers = lines.map(({ key }) => Number(/^l(\d+)$/.exec(key)?.[1] ?? 0));
  return `l${Math.max(0, ...numbers) + 1}`;
}

/** An item of the price list as a line. */
export const lineOfItem = (item: SchemaItemOut, lines: TypedLine[]): TypedLine => ({
  ...BARE,
  key: newKey(lines),
  item: item.key,
  wording: item.wording,
  unit: item.unit,
  tax: item.tax,
});

/** Words that are no item. */
export const lineOfWords = (words: string, lines: TypedLine[], tax: string): TypedLine => ({
  ...BARE,
  key: newKey(lines),
  wording: words.trim(),
  tax,
});

/** A discount that begins empty. */
export const noDiscount = (): TypedDiscount => ({
  name: 'Discount',
  by: 'percent',
  much: '',
  until: '',
  key: '',
});

/** Enough numbers are typed to be counted: "1.5", "1,5", "-2". */
const QUANTITY = /^-?\d{1,6}([.,]\d{1,3})?$/;
const PERCENT = /^\d{1,3}([.,]\d{1,3})?$/;
const HOURS = /^\d{1,4}([.,]\d{1,3})?$/;
const point = (text: string) => text.trim().replace(',', '.');

/** What is wrong with a line as it stands, by its field; nothing: it can be counted. */
export function wrongIn(line: TypedLine, currency: string): Partial<Record<keyof TypedLine, string>> {
  const found: Partial<Record<keyof TypedLine, string>> = {};
  const quantity = line.quantity.trim();
  if (!QUANTITY.test(quantity) || Number(point(quantity)) === 0) found.quantity = 'A number, like 1.5';
  if (line.price.trim() && parseAmount(line.price, currency) === null) found.price = 'An amount';
  if (line.cost.trim() && parseAmount(line.cost, currency) === null) found.cost = 'An amount';
  if (line.effort.trim() && !HOURS.test(line.effort.trim())) found.effort = 'Hours, like 1.5';
  if (line.discount && wrongDiscount(line.discount, currency)) found.discount = 'Percent, or an amount';
  return found;
}

/** Whether a discount cannot be counted; one without a figure takes nothing off, and is left out. */
export function wrongDiscount(one: TypedDiscount, currency: string): boolean {
  if (!one.much.trim()) return false;
  if (!one.name.trim()) return true;
  return one.by === 'percent'
    ? !PERCENT.test(one.much.trim()) || Number(point(one.much)) > 100
    : (parseAmount(one.much, currency) ?? -1) < 0;
}

/** As the server takes a discount; null: it takes nothing off. */
export function discountIn(one: TypedDiscount, currency: string): SchemaDiscountIn | null {
  const figure =
    one.by === 'percent' ? Number(point(one.much || '0')) : parseAmount(one.much || '0', currency);
  if (!figure) return null;
  return {
    name: one.name.trim(),
    percent: one.by === 'percent' ? point(one.much) : '0',
    amount: one.by === 'amount' ? figure : 0,
    valid_until: one.until || null,
    key: one.key,
  };
}

export function typedDiscount(one: SchemaDiscountIn, currency: string): TypedDiscount {
  const by = one.amount ? 'amount' : 'percent';
  return {
    name: one.name,
    by,
    much: by === 'amount' ? amountText(one.amount, currency) : String(Number(one.percent)),
    until: one.valid_until ?? '',
    key: one.key ?? '',
  };
}

/** As the server takes a line. */
export const lineIn = (line: TypedLine, currency: string): SchemaDocumentLineIn => ({
  key: line.key,
  item: line.item,
  wording: line.wording.trim(),
  quantity: point(line.quantity),
  unit: line.unit,
  unit_price: line.price.trim() ? parseAmount(line.price, currency) : null,
  cost: line.cost.trim() ? parseAmount(line.cost, currency) : null,
  effort: line.effort.trim() ? Math.round(Number(point(line.effort)) * 1000) : null,
  tax: line.tax,
  discount: line.discount ? discountIn(line.discount, currency) : null,
  tag: line.tag,
  optional: line.optional,
  chosen: line.chosen,
});

/** A kept line, to be typed over. A cost or an effort that is the item's own is looked up there again. */
export const typedLine = (line: SchemaDocumentLineOut, currency: string): TypedLine => ({
  key: line.key,
  item: line.item ?? '',
  wording: line.wording ?? '',
  quantity: String(Number(line.quantity)),
  unit: line.unit ?? 'C62',
  price: line.unit_price == null ? '' : amountText(line.unit_price, currency),
  cost: line.item || line.cost == null ? '' : amountText(line.cost, currency),
  effort: line.effort == null ? '' : String(line.effort / 1000),
  tax: line.tax ?? '',
  tag: line.tag ?? '',
  discount: line.discount ? typedDiscount(line.discount, currency) : null,
  optional: line.optional ?? false,
  chosen: line.chosen ?? false,
});

export const setIn = ({ lines, discounts }: TypedSet, currency: string) => ({
  lines: lines.map((line) => lineIn(line, currency)),
  discounts: discounts.map((one) => discountIn(one, currency)).filter((one) => one !== null),
});

/** Whether all of it can be counted. */
export const isWhole = ({ lines, discounts }: TypedSet, currency: string) =>
  lines.every((line) => Object.keys(wrongIn(line, currency)).length === 0) &&
  discounts.every((one) => !wrongDiscount(one, currency));

export const LEAST_LETTERS = 3;
const SHOWN = 8;

/** Items by what is typed: each word somewhere in the wording; those that begin with it come first. */
export function foundItems(items: readonly SchemaItemOut[], text: string): SchemaItemOut[] {
  const words = text.trim().toLowerCase().split(/\s+/);
  if (text.trim().length < LEAST_LETTERS) return [];
  const held = items.filter(
    (item) => !item.retired && words.every((word) => item.wording.toLowerCase().includes(word)),
  );
  const rank = (item: SchemaItemOut) => (item.wording.toLowerCase().startsWith(words[0]!) ? 0 : 1);
  return [...held].sort((one, two) => rank(one) - rank(two)).slice(0, SHOWN);
}

/** One line moved by so many places. */
export function moved<Row>(rows: readonly Row[], from: number, by: number): Row[] {
  const to = Math.max(0, Math.min(rows.length - 1, from + by));
  const next = [...rows];
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
}

/** Lines with the prices or the effort at which a labour-hour brings what is wanted. */
export function reached(
  set: TypedSet,
  rows: readonly { key: string; unit_price?: number | null; effort?: number | null }[],
  currency: string,
): TypedSet {
  const by = new Map(rows.map((row) => [row.key, row]));
  const lines = set.lines.map((line) => {
    const found = by.get(line.key);
    return {
      ...line,
      ...(found?.unit_price != null && { price: amountText(found.unit_price, currency) }),
      ...(found?.effort != null && { effort: String(found.effort / 1000) }),
    };
  });
  return { ...set, lines };
}
