import type { ReactNode } from 'react';

const TONES = {
  bad: 'border-bad bg-bad-wash',
  warn: 'border-warn bg-warn-wash',
  good: 'border-good bg-good-wash',
  plain: 'border-hairline bg-wash',
};

/** A message in the page: what happened, and what can be done. */
export function Notice({ tone = 'plain', children }: { tone?: keyof typeof TONES; children: ReactNode }) {
  return (
    <div
      role={tone === 'bad' ? 'alert' : 'status'}
      className={`rounded-sm border-l-4 px-3 py-2 text-sm ${TONES[tone]}`}
    >
      {children}
    </div>
  );
}
