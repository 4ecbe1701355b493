import { useState } from 'react';
import { Button } from '@/design/Button';
import { may, useSession } from '@/features/people';
import { Charging } from './charging/Charging';
import { Discounts } from './discounts/Discounts';
import { Items } from './items/Items';
import { Lists } from './lists/Lists';
import { TaxCodes } from './taxes/TaxCodes';

const PARTS = [
  { key: 'items', words: 'Price list', Part: Items },
  { key: 'lists', words: "Customers' lists", Part: Lists },
  { key: 'charging', words: 'Labour and journeys', Part: Charging },
  { key: 'discounts', words: 'Discounts', Part: Discounts },
  { key: 'taxes', words: 'Tax codes', Part: TaxCodes },
] as const;

/** What things cost: the price list, lists that customers belong to, how work is charged, discounts, tax. */
export function PricesPage() {
  const canChange = may(useSession(), 'change_settings');
  const [shown, setShown] = useState<(typeof PARTS)[number]['key']>('items');
  const { Part } = PARTS.find(({ key }) => key === shown)!;
  return (
    <div className="flex h-full min-h-0 flex-col">
      <header className="flex items-center gap-4 border-b border-hairline px-3 py-2">
        <h1 className="text-lg font-semibold">Prices</h1>
        <div role="group" aria-label="What to show" className="flex gap-1">
          {PARTS.map(({ key, words }) => (
            <Button key={key} aria-pressed={key === shown} onClick={() => setShown(key)}>
              {words}
            </Button>
          ))}
        </div>
      </header>
      <Part canChange={canChange} />
    </div>
  );
}
