import type { SchemaReadOptionOut } from '@/api/types';
import { price } from '@/shared/money';

interface Props {
  way: SchemaReadOptionOut;
  /** 0: it is the only one. */
  number: number;
  currency: string;
  withTax: boolean;
  isChosen: boolean;
  canChoose: boolean;
  ticked: string[];
  onChoose: () => void;
  onTick: (keys: string[]) => void;
}

/** One way to do it: what is in it, what may be added, what it costs. */
export function OneWay({ way, number, currency, withTax, isChosen, canChoose, ...rest }: Props) {
  const { ticked, onChoose, onTick } = rest;
  const name = way.name || 'What it costs';
  return (
    <section
      aria-label={name}
      className={`border-l-4 pl-3 ${isChosen && number ? 'border-copper' : 'border-hairline'}`}
    >
      <h2 className="text-lg font-semibold">
        {number > 0 && canChoose ? (
          <label className="flex min-h-12 items-center gap-2">
            <input type="radio" name="way" className="size-5" checked={isChosen} onChange={onChoose} />
            {name}
          </label>
        ) : (
          name
        )}
      </h2>
      {way.summary && <p className="text-sm">{way.summary}</p>}
      <ul className="divide-y divide-hairline text-sm">
        {way.lines.map((line) => (
          <OneLine
            key={line.key}
            line={line}
            currency={currency}
            canChoose={canChoose}
            isTicked={ticked.includes(line.key)}
            onTick={(on) => onTick(on ? [...ticked, line.key] : ticked.filter((key) => key !== line.key))}
          />
        ))}
      </ul>
      {way.discounts.map((one) => (
        <p key={one.name} className="flex justify-between text-sm">
          <span>{one.name}</span>
          <span className="figures">{price(-one.amount, currency)}</span>
        </p>
      ))}
      <p className="text-right text-xs text-ink-soft">
        {withTax ? 'amounts with tax' : 'amounts without tax'}
        {!withTax && ` · ${price(way.totals.net, currency)} without tax`} ·{' '}
        <b className="figures text-base text-ink">{price(way.totals.gross, currency)}</b> with tax
        {way.lines.some((line) => line.optional) && ', as it stands here'}
      </p>
    </section>
  );
}

interface LineProps {
  line: SchemaReadOptionOut['lines'][number];
  currency: string;
  canChoose: boolean;
  isTicked: boolean;
  onTick: (on: boolean) => void;
}

function OneLine({ line, currency, canChoose, isTicked, onTick }: LineProps) {
  return (
    <li className="flex items-baseline gap-2 py-1.5">
      {line.optional && canChoose ? (
        <label className="flex min-h-11 flex-1 items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={isTicked}
            onChange={(event) => onTick(event.target.checked)}
          />
          <span>
            {line.wording} <span className="text-ink-soft">(if you wish)</span>
          </span>
        </label>
      ) : (
        <span className="flex-1">
          {line.optional && (isTicked ? '☑ ' : '☐ ')}
          {line.wording}
          {line.discount && <span className="block text-ink-soft">{line.discount}</span>}
        </span>
      )}
      <span className="figures text-ink-soft">{line.many}</span>
      <span className="figures w-24 text-right">{price(line.amount, currency)}</span>
    </li>
  );
}
