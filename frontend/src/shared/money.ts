/** "€ 1,250": whole money in the company's currency; the bare number until the currency is known. */
export function money(amount: number, currency: string | undefined): string {
  if (!currency) return amount.toLocaleString('en-GB');
  return new Intl.NumberFormat('en-GB', { style: 'currency', currency, maximumFractionDigits: 0 }).format(
    amount,
  );
}
