import type { ReactNode } from 'react';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';

interface Props {
  list: ReactNode;
  error: unknown;
  /** Whether the one has more to it than the list. */
  wide?: boolean;
  children: ReactNode;
}

const NARROW = 'grid-cols-[minmax(0,3fr)_minmax(22rem,2fr)]';
const WIDE = 'grid-cols-[minmax(20rem,2fr)_minmax(0,3fr)]';

/** A list at the left, what is chosen of it at the right. */
export const ListAndOne = ({ list, error, wide = false, children }: Props) => (
  <div className={`grid min-h-0 flex-1 ${wide ? WIDE : NARROW}`}>
    <div className="min-h-0 overflow-y-auto border-r border-hairline">
      {error != null && <Notice tone="bad">{sentenceOf(error)}</Notice>}
      {list}
    </div>
    <div className="min-h-0 overflow-y-auto p-4">{children}</div>
  </div>
);
