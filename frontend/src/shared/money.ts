// Money: whole numbers of the currency's smallest unit, as the server counts it.

const digits = new Map<string, number>();

/** How many digits after the point amounts of a currency have. */
export function digitsOf(currency: string): number {
  let known = digits.get(currency);
  if (known === undefined) {
    const format = new Intl.NumberFormat('en', { style: 'currency', currency });
    known = format.resolvedOptions().maximumFractionDigits ?? 2;
    digits.set(currency, known);
  }
  return known;
}

/** "€ 1,250": whole money in the company's currency; the bare number until the currency is known. */
export function money(amount: number, currency: string | undefined): string {
  if (!currency) return amount.toLocaleString('en-GB');
  return new Intl.NumberFormat('en-GB', { style: 'currency', currency, maximumFractionDigits: 0 }).format(
    amount,
  );
}

/** "€58.00": an amount in smallest units, to be read. */
export function price(amount: number, currency: string): string {
  const whole = amount / 10 ** digitsOf(currency);
  return new Intl.NumberFormat('en-GB', { style: 'currency', currency }).format(whole);
}

/** "58.00": an amount in smallest units, to be typed over. */
export function amountText(amount: number | null | undefined, currency: string): string {
  return amount == null ? '' : (amount / 10 ** digitsOf(currency)).toFixed(digitsOf(currency));
}

/**
 * An amount as people type it: "58", "58.5", "58,50", "1,234.50", "1.234,50". Whole smallest units, or null when it is
 * none or has more digits than the currency.
 */
export function parseAmount(text: string, currency: string): number | null {
  const plain = text.trim().replace(/[\s' ]/g, '');
  const found = /^(-?)(\d{0,3}(?:[.,]\d{3})+|\d*)(?:[.,](\d*))?$/.exec(plain);
  const cents = found?.[3] ?? '';
  const whole = found?.[2]?.replace(/[.,]/g, '') ?? '';
  if (!found || (!whole && !cents) || cents.length > digitsOf(currency)) return null;
  const amount = Number((whole || '0') + cents.padEnd(digitsOf(currency), '0'));
  return found[1] ? -amount : amount;
}
