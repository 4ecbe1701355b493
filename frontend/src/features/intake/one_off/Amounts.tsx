import type { KeyboardEvent } from 'react';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import {
  LinesEditor,
  reached,
  SumsBox,
  useCurrency,
  useReach,
  WholeDiscounts,
  type TypedSet,
} from '@/features/pricing';
import type { OneOff } from './OneOffForm';

/** Enter leads on among the lines; it does not make the order. */
function keepFromSending(event: KeyboardEvent) {
  if (event.key === 'Enter' && event.target instanceof HTMLInputElement) event.preventDefault();
}

/** What it costs: the lines of such work until somebody types their own. */
export function Amounts({ one }: { one: OneOff }) {
  const currency = useCurrency();
  const reach = useReach();
  const { shown, asked } = one;
  const { sums, isOld, error } = one.figures;
  const set = (changes: Partial<TypedSet>) => one.setLines({ ...shown, ...changes });
  const onReach = (by: 'price' | 'effort') =>
    reach.mutate(
      { ...asked, set: shown, by },
      { onSuccess: (rows) => one.setLines(reached(shown, rows, currency)) },
    );
  return (
    <section aria-label="Price" className="space-y-2" onKeyDown={keepFromSending}>
      <div className="flex items-center gap-3">
        <h2 className="font-semibold">What it costs</h2>
        {one.lines ? (
          <Button rank="quiet" onClick={() => one.setLines(null)}>
            As such work usually costs
          </Button>
        ) : (
          shown.lines.length > 0 && (
            <span className="text-sm text-ink-soft">as such work usually costs; change what was agreed</span>
          )
        )}
      </div>
      <div className="grid gap-4 2xl:grid-cols-[minmax(0,1fr)_15rem]">
        <div className="space-y-2">
          <LinesEditor lines={shown.lines} onChange={(lines) => set({ lines })} sums={sums[0]} />
          <WholeDiscounts discounts={shown.discounts} onChange={(discounts) => set({ discounts })} />
        </div>
        {sums[0] && shown.lines.length > 0 && <SumsBox sums={sums[0]} isOld={isOld} onReach={onReach} />}
      </div>
      <FormError error={reach.error ?? error} />
    </section>
  );
}
