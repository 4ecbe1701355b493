import { useEffect } from 'react';
import { stamp } from '@/shared/time';
import type { OwnVisit } from '../sync/ahead';
import { useRecord } from './record';

/** What there is to know before the work: whoever has read it has looked. */
export function Know({ visit }: { visit: OwnVisit }) {
  const { mutate } = useRecord(visit.id);
  const looked = visit.report.looked;
  useEffect(() => {
    if (!looked) mutate({ kind: 'look', body: {} });
  }, [looked, mutate]);
  const who = [visit.contact_name, visit.contact_phone || visit.customer_phone].filter(Boolean).join(', ');
  return (
    <dl className="space-y-4 p-4 text-lg">
      <Told title="What is wrong" words={visit.description === visit.title ? '' : visit.description} />
      {visit.lately.length > 0 && (
        <div>
          <dt className="text-sm font-semibold text-ink-soft">What happened here lately</dt>
          <dd>
            <ul className="space-y-2">
              {visit.lately.map(({ words, at, pressing }) => (
                <li key={words} className={pressing ? 'border-l-4 border-warn bg-warn-wash px-2 py-1' : ''}>
                  {words} <time className="text-sm text-ink-soft">{stamp(at)}</time>
                </li>
              ))}
            </ul>
          </dd>
        </div>
      )}
      <Told title="How to get in" words={visit.access_notes} marked />
      <Told title="Who to ask for" words={who} />
      <Told title="Equipment" words={visit.asset} />
      <Told title="Notes from the office" words={visit.notes} />
    </dl>
  );
}

const Told = ({ title, words, marked }: { title: string; words: string | null; marked?: boolean }) =>
  words && (
    <div className={marked ? 'border-l-4 border-copper bg-copper-wash px-2 py-1' : ''}>
      <dt className="text-sm font-semibold text-ink-soft">{title}</dt>
      <dd className="whitespace-pre-line">{words}</dd>
    </div>
  );
