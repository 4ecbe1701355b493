// A quote as it is typed: what is kept of it, and what it becomes on the wire.

import type { SchemaQuoteChangeIn, SchemaQuoteOut } from '@/api/types';
import { isWhole, setIn, typedDiscount, typedLine, type TypedSet } from '@/features/pricing';
import { amountText, parseAmount } from '@/shared/money';
import { parseLength } from '@/shared/time';

export interface TypedOption extends TypedSet {
  key: string;
  name: string;
  summary: string;
  length: string;
  crew: string;
}

export interface TypedQuote {
  title: string;
  siteId: number | null;
  assetId: number | null;
  jobTypeId: number | null;
  contactName: string;
  contactEmail: string;
  contactPhone: string;
  note: string;
  chance: number;
  extraWork: boolean;
  scope: string;
  introduction: string;
  closing: string;
  terms: string;
  technicianNote: string;
  days: string;
  depositBy: 'percent' | 'amount';
  deposit: string;
  pictures: number[];
  options: TypedOption[];
}

export const MOST_OPTIONS = 4;

const lengthText = (seconds: number | null | undefined) => {
  if (!seconds) return '';
  const minutes = Math.round(seconds / 60);
  return minutes % 60 === 0
    ? `${minutes / 60}:00`
    : `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
};

export function typedQuote(quote: SchemaQuoteOut, currency: string): TypedQuote {
  const { content } = quote;
  const depositBy = content.deposit_amount ? 'amount' : 'percent';
  return {
    title: quote.title,
    siteId: quote.site_whole?.id ?? null,
    assetId: quote.asset?.id ?? null,
    jobTypeId: quote.job_type_id ?? null,
    contactName: quote.contact_name,
    contactEmail: quote.contact_email,
    contactPhone: quote.contact_phone,
    note: quote.note,
    chance: quote.chance,
    extraWork: quote.extra_work_on_id != null,
    scope: content.scope,
    introduction: content.introduction,
    closing: content.closing,
    terms: content.terms,
    technicianNote: content.technician_note,
    days: String(content.days),
    depositBy,
    deposit:
      depositBy === 'amount'
        ? amountText(content.deposit_amount, currency)
        : Number(content.deposit_percent)
          ? String(Number(content.deposit_percent))
          : '',
    pictures: content.pictures,
    options: content.options.map((option) => ({
      key: option.key,
      name: option.name,
      summary: option.summary,
      length: lengthText(option.duration_seconds),
      crew: option.crew ? String(option.crew) : '',
      lines: option.lines.map((line) => typedLine(line, currency)),
      discounts: option.discounts.map((one) => typedDiscount(one, currency)),
    })),
  };
}

/** The key of another option: the first letter that is free. */
export const newOptionKey = (options: readonly TypedOption[]) =>
  [...'abcdefghijkl'].find((key) => options.every((option) => option.key !== key)) ?? 'z';

/** Another way to do it, beginning with the lines of the one that is looked at. */
export const copyOf = (option: TypedOption, options: readonly TypedOption[]): TypedOption => ({
  ...option,
  key: newOptionKey(options),
  name: '',
  summary: '',
});

/** Why it cannot be kept as it stands; nothing: it can. */
export function wrongInQuote(typed: TypedQuote, currency: string): string {
  if (!typed.title.trim()) return 'A quote needs a title.';
  if (!/^\d{1,3}$/.test(typed.days.trim()) || Number(typed.days) < 1)
    return 'Say for how many days it is valid.';
  if (typed.deposit.trim() && depositOf(typed, currency) === null) return 'The deposit is no figure.';
  for (const option of typed.options) {
    if (!isWhole(option, currency)) return `Something in “${option.name || 'the lines'}” is no figure yet.`;
    if (option.length.trim() && parseLength(option.length) === null)
      return 'The length is no time: 45, or 1:30.';
    if (option.crew.trim() && !/^[1-8]$/.test(option.crew.trim())) return 'A crew has 1 to 8 members.';
  }
  return '';
}

function depositOf(typed: TypedQuote, currency: string): { percent: string; amount: number } | null {
  const text = typed.deposit.trim().replace(',', '.');
  if (!text) return { percent: '0', amount: 0 };
  if (typed.depositBy === 'percent') {
    const isShare = /^\d{1,3}(\.\d{1,3})?$/.test(text) && Number(text) <= 100;
    return isShare ? { percent: text, amount: 0 } : null;
  }
  const amount = parseAmount(typed.deposit, currency);
  return amount !== null && amount >= 0 ? { percent: '0', amount } : null;
}

/** As the server takes it. Only for what can be kept. */
export function quoteIn(typed: TypedQuote, version: number, currency: string): SchemaQuoteChangeIn {
  const deposit = depositOf(typed, currency) ?? { percent: '0', amount: 0 };
  return {
    version,
    title: typed.title,
    site_id: typed.siteId,
    asset_id: typed.assetId,
    job_type_id: typed.jobTypeId,
    contact_name: typed.contactName,
    contact_email: typed.contactEmail,
    contact_phone: typed.contactPhone,
    note: typed.note,
    chance: typed.chance,
    extra_work: typed.extraWork,
    content: {
      scope: typed.scope,
      introduction: typed.introduction,
      closing: typed.closing,
      terms: typed.terms,
      technician_note: typed.technicianNote,
      days: Number(typed.days),
      deposit_percent: deposit.percent,
      deposit_amount: deposit.amount,
      pictures: typed.pictures,
      options: typed.options.map((option) => ({
        key: option.key,
        name: option.name,
        summary: option.summary,
        duration_seconds: option.length.trim() ? parseLength(option.length) : null,
        crew: option.crew.trim() ? Number(option.crew) : null,
        ...setIn(option, currency),
      })),
    },
  };
}

/** What is typed and not saved outlives a reload of the page. */
const SHELF = 'iron-relay.quote';

export function shelve(id: number, version: number, typed: TypedQuote | null) {
  if (typed === null) sessionStorage.removeItem(`${SHELF}.${id}`);
  else sessionStorage.setItem(`${SHELF}.${id}`, JSON.stringify({ version, typed }));
}

/** What was typed on this version; of another one it is no use. */
export function shelved(id: number, version: number): TypedQuote | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(`${SHELF}.${id}`) ?? 'null') as {
      version: number;
      typed: TypedQuote;
    } | null;
    return kept?.version === version ? kept.typed : null;
  } catch {
    return null;
  }
}

/** Quotes of these states have a row of their own in the pipeline, in this order. */
export const STATES = ['draft', 'sent', 'approved', 'refused', 'expired', 'withdrawn'] as const;
export type QuoteState = (typeof STATES)[number];

/** State is told by its mark and its word, never by hue alone. */
export const MARKS: Record<QuoteState, string> = {
  draft: '✎',
  sent: '→',
  approved: '✓',
  refused: '✕',
  expired: '…',
  withdrawn: '↩',
};

export const LOST_FOR = [
  'too dear',
  'too late',
  'somebody else does it',
  'not done at all',
  'no answer',
] as const;
