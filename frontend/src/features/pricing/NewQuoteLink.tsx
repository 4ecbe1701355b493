import { Link } from '@tanstack/react-router';
import { may, useSession } from '@/features/people';

interface Props {
  /** What it begins with. */
  from: { customer?: number; site?: number; asset?: number; request?: number; order?: number };
  words: string;
  className?: string;
}

/** Where a quote begins, for whoever may make one. */
export function NewQuoteLink({ from, words, className = 'underline' }: Props) {
  if (!may(useSession(), 'make_quotes')) return null;
  return (
    <Link to="/quotes/new" search={from} className={className}>
      {words}
    </Link>
  );
}
