import type { SchemaOffersOut, SchemaWishIn } from '@/api/types';

export interface Window {
  start: number;
  end: number;
}

/** What the caller wishes for the time. */
export interface Wish {
  part: '' | 'morning' | 'afternoon';
  weekdays: number[];
  notBefore: string;
}
export const ANY_TIME: Wish = { part: '', weekdays: [], notBefore: '' };

/** The windows in the order in which they are shown, with the number that takes each. */
export function shownOffers(answer: SchemaOffersOut | undefined, byTime: boolean, more: boolean) {
  const offers = [...(answer?.offers ?? [])];
  if (byTime) offers.sort((one, two) => one.start - two.start || one.end - two.end);
  return more ? offers : offers.slice(0, answer?.shown ?? 4);
}

/** The wish as the server reads it. */
export const wishIn = ({ part, weekdays, notBefore }: Wish): SchemaWishIn => ({
  part,
  weekdays,
  not_before: notBefore || null,
  not_after: null,
});
