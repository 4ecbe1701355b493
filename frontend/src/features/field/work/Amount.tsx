import { Minus, Plus } from 'lucide-react';
import { Button } from '@/design/Button';

interface Props {
  label: string;
  amount: number;
  least?: number;
  onChange: (amount: number) => void;
}

/** So many, by two large buttons. */
export function Amount({ label, amount, least = 1, onChange }: Props) {
  return (
    <div role="group" aria-label={label} className="flex items-center gap-2">
      <Button size="thumb" disabled={amount <= least} onClick={() => onChange(amount - 1)}>
        <Minus size={22} aria-label="One less" />
      </Button>
      <output className="figures min-w-10 text-center text-2xl font-bold">{amount}</output>
      <Button size="thumb" onClick={() => onChange(amount + 1)}>
        <Plus size={22} aria-label="One more" />
      </Button>
    </div>
  );
}
