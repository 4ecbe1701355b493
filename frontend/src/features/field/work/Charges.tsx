import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useSession } from '@/features/people';
import { itemsQuery } from '../queries';
import type { OwnVisit } from '../sync/ahead';
import { inWords } from '../trouble';
import { Amount } from './Amount';
import { fitting, Lookup } from './Lookup';
import { useRecord } from './record';
import { THUMB } from './thumb';

/** What is charged besides work and parts, and how far was driven. */
export function Charges({ visit }: { visit: OwnVisit }) {
  const record = useRecord(visit.id);
  const items = useQuery(itemsQuery).data ?? [];
  const { charges, nothing_more, mileages } = visit.report.entries;
  const said = nothing_more.includes('charges');
  const put = (words: string, item = '') =>
    record.mutate({ kind: 'charge', body: { id: v7(), item, words, quantity: 1000 } });
  return (
    <div className="space-y-6 p-4">
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      {charges.length > 0 && (
        <ul aria-label="Charges" className="space-y-4">
          {charges.map((row) => (
            <li key={row.id} className="space-y-2">
              <p className="text-lg font-semibold">{row.words}</p>
              <div className="flex flex-wrap items-center gap-2">
                <Amount
                  label="How many"
                  amount={row.quantity / 1000}
                  onChange={(amount) =>
                    record.mutate({
                      kind: 'charge',
                      body: { id: row.id, item: row.item, words: row.words, quantity: amount * 1000 },
                    })
                  }
                />
                <Button
                  size="thumb"
                  rank="quiet"
                  onClick={() => record.mutate({ kind: 'charge out', body: { id: row.id } })}
                >
                  Take off
                </Button>
              </div>
            </li>
          ))}
        </ul>
      )}
      <Lookup
        label="Something to charge"
        find={(text) => fitting(items, text, ({ words }) => words).map(({ key, words }) => ({ key, words }))}
        onChoose={(key) => put(items.find((row) => row.key === key)?.words ?? key, key)}
        onWords={(words) => put(words)}
      />
      <Kilometres visit={visit} />
      {charges.length + mileages.length === 0 && (
        <Button
          size="thumb"
          className="w-full"
          aria-pressed={said}
          onClick={() => record.mutate({ kind: 'nothing more', body: { of: 'charges', said: !said } })}
        >
          Nothing else is charged
        </Button>
      )}
    </div>
  );
}

/** How far was driven for this visit, as somebody reads it off. */
function Kilometres({ visit }: { visit: OwnVisit }) {
  const own = useSession().account?.name;
  const record = useRecord(visit.id);
  const kept = visit.report.entries.mileages.find(({ by }) => by === own)?.metres;
  const [text, setText] = useState(kept === undefined ? '' : String(kept / 1000));
  const metres = metresOf(text);
  const keep = () => {
    if (metres === undefined || metres === (kept ?? null)) return;
    record.mutate({ kind: 'mileage', body: { metres } });
  };
  return (
    <TextField
      label="Kilometres driven for this visit"
      inputMode="decimal"
      className={THUMB}
      value={text}
      error={metres === undefined ? 'A number of kilometres, at most 2,000.' : undefined}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
    />
  );
}

/** Metres of what was typed in kilometres; null: nothing was; undefined: it is no distance. */
export function metresOf(text: string): number | null | undefined {
  const typed = text.trim().replace(',', '.');
  if (!typed) return null;
  const found = /^\d{1,4}(\.\d{1,2})?$/.test(typed) ? Math.round(Number(typed) * 1000) : NaN;
  return found <= 2_000_000 ? found : undefined;
}
