import { Link } from '@tanstack/react-router';
import type { SchemaSumsOut } from '@/api/types';
import { Button } from '@/design/Button';
import { may, useSession } from '@/features/people';
import { price } from '@/shared/money';
import { useCurrency, useTaxCodes } from '../queries';

interface Props {
  sums: SchemaSumsOut;
  /** Figures of a moment ago: something half typed stands there. */
  isOld?: boolean;
  onReach?: (by: 'price' | 'effort') => void;
}

/** What the lines come to, and whether the price is right. */
export function SumsBox({ sums, isOld = false, onReach }: Props) {
  return (
    <div className={`space-y-3 text-sm ${isOld ? 'opacity-60' : ''}`} aria-busy={isOld}>
      <TotalsTable totals={sums.totals} />
      <Untaxed />
      {sums.unpriced > 0 && (
        <p role="alert" className="text-bad">
          {sums.unpriced === 1 ? 'One line has' : `${sums.unpriced} lines have`} no price yet.
        </p>
      )}
      {sums.ended.map((name) => (
        <p key={name} role="alert" className="text-bad">
          “{name}” has ended and takes nothing off.
        </p>
      ))}
      <PriceHelper sums={sums} {...(onReach && { onReach })} />
    </div>
  );
}

/** A company that has said nothing of tax charges none; whoever writes prices is told so. */
function Untaxed() {
  const codes = useTaxCodes();
  const canSetUp = may(useSession(), 'change_settings');
  if (!codes.isSuccess || codes.data.some((code) => !code.retired)) return null;
  return (
    <p role="note" className="text-warn">
      No tax code is set up: nothing is taxed.{' '}
      {canSetUp && (
        <Link to="/set-up/prices" className="underline">
          Set one up
        </Link>
      )}
    </p>
  );
}

/** Sums as they stand on the document. */
export function TotalsTable({ totals }: { totals: SchemaSumsOut['totals'] }) {
  const currency = useCurrency();
  const row = (words: string, amount: number, strong = false) => (
    <tr key={words} className={strong ? 'border-t border-ink text-base font-semibold' : ''}>
      <th scope="row" className="py-0.5 text-left font-normal">
        {strong ? <b>{words}</b> : words}
      </th>
      <td className="figures text-right">{price(amount, currency)}</td>
    </tr>
  );
  return (
    <table className="w-full" aria-label="Totals">
      <tbody>
        {totals.discounts.map((one) => row(one.name, -one.amount))}
        {row('Without tax', totals.net)}
        {totals.taxes.map((tax) =>
          row(
            Number(tax.percent) ? `Tax, ${Number(tax.percent)} %` : `No tax: ${tax.reason || tax.category}`,
            tax.tax,
          ),
        )}
        {row('With tax', totals.gross, true)}
      </tbody>
    </table>
  );
}

const hours = (value: number) => `${value.toLocaleString('en-GB', { maximumFractionDigits: 2 })} h`;

/** Revenue of a labour-hour, what would reach the wanted, how likely the effort suffices, what is left. */
function PriceHelper({ sums, onReach }: Pick<Props, 'sums' | 'onReach'>) {
  const currency = useCurrency();
  const { effort, margin } = sums;
  const isShort = effort.wanted != null && effort.per_hour != null && effort.per_hour < effort.wanted;
  return (
    <section aria-label="Is the price right?" className="space-y-1.5 border-t border-hairline pt-2">
      <h3 className="text-xs font-semibold text-ink-soft">Is the price right?</h3>
      {effort.per_hour == null ? (
        <p className="text-ink-soft">There is no labour in these lines.</p>
      ) : (
        <p>
          {hours(effort.hours)} of labour, <b className="figures">{price(effort.per_hour, currency)}</b> an
          hour
          {effort.wanted != null && (
            <span className={isShort ? 'text-bad' : ''}>
              {' '}
              ({isShort ? 'less than' : 'at least'} the {price(effort.wanted, currency)} wanted)
            </span>
          )}
        </p>
      )}
      {isShort && effort.price_to_reach != null && effort.hours_to_reach != null && (
        <div className="space-y-1">
          <p>
            It would take {price(effort.price_to_reach, currency)} without tax (
            {price(effort.missing ?? 0, currency)} more), or no more than {hours(effort.hours_to_reach)} of
            labour.
          </p>
          {onReach && (
            <p className="flex gap-1.5">
              <Button onClick={() => onReach('price')}>Raise the prices</Button>
              <Button onClick={() => onReach('effort')}>Plan less labour</Button>
            </p>
          )}
        </div>
      )}
      {effort.suffices != null && effort.hours_at_80 != null && (
        <p>
          By {effort.count} finished jobs of this kind, {hours(effort.hours)} suffice in{' '}
          {Math.round(100 * effort.suffices)} of 100 cases; {hours(effort.hours_at_80)} suffice in 80.
        </p>
      )}
      {margin && <Left margin={margin} currency={currency} />}
    </section>
  );
}

function Left({ margin, currency }: { margin: NonNullable<SchemaSumsOut['margin']>; currency: string }) {
  return (
    <p>
      {margin.margin == null ? (
        <span className="text-ink-soft">
          {margin.unknown === 1 ? 'One line has' : `${margin.unknown} lines have`} no cost: what is left is
          not known.
        </span>
      ) : (
        <>
          <b className="figures">{price(margin.margin, currency)}</b> are left after{' '}
          {price(margin.cost, currency)} of cost
          {margin.percent != null && <> ({Math.round(margin.percent)} %)</>}
          {margin.at_80 != null && (
            <>; {price(margin.at_80, currency)} if it takes as long as 80 of 100 at most</>
          )}
        </>
      )}
    </p>
  );
}
