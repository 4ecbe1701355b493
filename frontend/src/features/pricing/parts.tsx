import type { ReactNode } from 'react';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';

interface Props {
  list: ReactNode;
  error: unknown;
  children: ReactNode;
}

/** A list at the left, what is chosen of it at the right. */
export const ListAndOne = ({ list, error, children }: Props) => (
  <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(22rem,2fr)]">
    <div className="min-h-0 overflow-y-auto border-r border-hairline">
      {error != null && <Notice tone="bad">{sentenceOf(error)}</Notice>}
      {list}
    </div>
    <div className="min-h-0 overflow-y-auto p-4">{children}</div>
  </div>
);
