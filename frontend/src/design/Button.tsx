import type { ButtonHTMLAttributes, ReactNode } from 'react';

type Rank = 'main' | 'plain' | 'quiet' | 'danger' | 'bar';
/** A switch that is on. */
const PRESSED = 'bg-copper-wash text-ink border-copper font-semibold';

const RANKS: Record<Rank, string> = {
  main: 'bg-copper text-copper-ink border-copper hover:brightness-110',
  plain: 'bg-sheet text-ink border-hairline hover:bg-wash',
  quiet: 'bg-transparent text-ink border-transparent hover:bg-wash',
  bar: 'bg-transparent text-bar-ink border-transparent hover:bg-bar-ink/15',
  danger: 'bg-sheet text-bad border-bad hover:bg-bad-wash',
};

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  rank?: Rank;
  size?: 'row' | 'thumb';
  icon?: ReactNode;
}

/** The one button. `thumb` is for a gloved hand. */
export function Button({ rank = 'plain', size = 'row', icon, children, className = '', ...rest }: Props) {
  const room = size === 'thumb' ? 'min-h-14 px-5 text-lg font-semibold' : 'min-h-8 px-3 text-sm';
  const look = rest['aria-pressed'] === true ? PRESSED : RANKS[rank];
  return (
    <button
      type="button"
      className={`inline-flex items-center justify-center gap-1.5 rounded-sm border whitespace-nowrap disabled:opacity-50 ${room} ${look} ${className}`}
      {...rest}
    >
      {icon}
      {children}
    </button>
  );
}
