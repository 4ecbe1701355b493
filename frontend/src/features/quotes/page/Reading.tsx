import type { SchemaQuoteOut } from '@/api/types';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';
import { typedQuote } from '../model';
import { OptionStrip } from './OptionStrip';

interface Props {
  quote: SchemaQuoteOut;
  shown: number;
  onShow: (index: number) => void;
}

/** What was offered, to be read: nothing of it can be changed any more. */
export function Reading({ quote, shown, onShow }: Props) {
  const currency = useCurrency();
  const { content } = quote;
  const option = content.options[shown];
  const nets = new Map(option?.sums.lines.map((line) => [line.key, line.net]));
  return (
    <div className="space-y-3 text-sm">
      <p className="whitespace-pre-line">{content.scope}</p>
      <OptionStrip
        typed={typedQuote(quote, currency)}
        sums={content.options.map((one) => one.sums)}
        shown={shown}
        onShow={onShow}
      />
      {option?.summary && <p>{option.summary}</p>}
      <ul aria-label="Lines" className="divide-y divide-hairline">
        {option?.lines.map((line) => (
          <li key={line.key} className="flex gap-2 py-0.5">
            <span className="figures w-16 text-right text-ink-soft">{Number(line.quantity)} ×</span>
            <span className="flex-1">
              {line.wording}
              {line.optional && <span className="text-ink-soft"> (if wished)</span>}
            </span>
            <span className="figures">{price(nets.get(line.key) ?? 0, currency)}</span>
          </li>
        ))}
      </ul>
      {content.technician_note && (
        <p>
          <b>To the technician:</b> {content.technician_note}
        </p>
      )}
      {quote.note && (
        <p>
          <b>For ourselves:</b> {quote.note}
        </p>
      )}
      <details>
        <summary className="cursor-pointer font-semibold">Terms</summary>
        <p className="whitespace-pre-line">{content.terms}</p>
      </details>
    </div>
  );
}
