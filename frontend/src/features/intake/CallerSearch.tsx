import { UserPlus } from 'lucide-react';
import { useState, type KeyboardEvent } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaHitOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useCustomerSearch } from '@/features/customers';
import type { Caller } from './model';

/** Find the caller while typing: name, phone, address, serial. Arrows and Enter choose. */
export function CallerSearch({ onChoose }: { onChoose: (caller: Caller) => void }) {
  const [text, setText] = useState('');
  const [active, setActive] = useState(0);
  const search = useCustomerSearch(text.trim());
  const hits = text.trim().length >= 2 ? (search.data ?? []) : [];
  const choose = (hit: SchemaHitOut) =>
    onChoose({
      kind: 'known',
      customerId: hit.customer.id,
      siteId: hit.site?.id ?? null,
      assetId: hit.asset?.id ?? null,
    });
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setActive((value) => Math.min(hits.length - 1, value + 1));
    else if (event.key === 'ArrowUp') setActive((value) => Math.max(0, value - 1));
    else if (event.key === 'Enter' && hits[active]) choose(hits[active]);
    else return;
    event.preventDefault();
  };
  return (
    <div className="space-y-2">
      <input
        autoFocus
        type="search"
        role="combobox"
        aria-label="Find the caller"
        aria-expanded={hits.length > 0}
        aria-controls="caller-hits"
        aria-activedescendant={hits[active] ? `hit-${active}` : undefined}
        placeholder="Name, phone, site address or serial number"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setActive(0);
        }}
        onKeyDown={onKey}
        className="w-full rounded-sm border border-ink bg-sheet px-3 py-2.5 text-lg"
      />
      {search.isError && <Notice tone="bad">{sentenceOf(search.error)}</Notice>}
      <ul id="caller-hits" role="listbox" aria-label="Customers found" className="divide-y divide-hairline">
        {hits.map((hit, index) => (
          <li
            key={`${hit.customer.id} ${hit.site?.id ?? ''}`}
            id={`hit-${index}`}
            role="option"
            aria-selected={index === active}
            onClick={() => choose(hit)}
            onMouseEnter={() => setActive(index)}
            className={`cursor-pointer px-2 py-1.5 ${index === active ? 'bg-copper-wash' : ''}`}
          >
            <p className="font-semibold">
              {hit.customer.name}
              {hit.site && <span className="font-normal"> · {hit.site.name}</span>}
            </p>
            <p className="text-xs text-ink-soft">
              {hit.because}
              {hit.site && hit.because !== hit.site.address ? ` · ${hit.site.address}` : ''}
              {hit.customer.phone ? ` · ${hit.customer.phone}` : ''}
            </p>
          </li>
        ))}
      </ul>
      {text.trim().length >= 2 && (
        <div className="flex items-center gap-3 border-t border-hairline pt-2">
          <Button icon={<UserPlus size={15} />} onClick={() => onChoose({ kind: 'new', typed: text.trim() })}>
            New customer
          </Button>
          {search.isSuccess && hits.length === 0 && (
            <span className="text-sm text-ink-soft">Nobody found by that.</span>
          )}
        </div>
      )}
    </div>
  );
}
