import { UserPlus } from 'lucide-react';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaHitOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { Suggest } from '@/design/Suggest';
import { useCustomerSearch } from '@/features/customers';
import type { Caller } from './model';

/** Find the caller while typing. Arrows and Enter choose; Enter with nobody found begins a new customer. */
export function CallerSearch({ onChoose }: { onChoose: (caller: Caller) => void }) {
  const [text, setText] = useState('');
  const typed = text.trim();
  const search = useCustomerSearch(typed);
  const hits = typed.length >= 2 ? (search.data ?? []) : [];
  const settled = search.isSuccess && !search.isPlaceholderData;
  const choose = (hit: SchemaHitOut) =>
    onChoose({
      kind: 'known',
      customerId: hit.customer.id,
      siteId: hit.site?.id ?? null,
      assetId: hit.asset?.id ?? null,
    });
  const begin = () => onChoose({ kind: 'new', typed });
  return (
    <div className="space-y-2">
      <Suggest
        big
        autoFocus
        hideLabel
        label="Find the caller"
        listLabel="Customers found"
        placeholder="Name, phone, e-mail, address, serial"
        value={text}
        rows={hits}
        keyOf={(hit) => `${hit.customer.id} ${hit.site?.id ?? ''} ${hit.because}`}
        show={(hit) => <Hit hit={hit} />}
        onType={setText}
        onChoose={choose}
        onEnterWithout={typed.length >= 2 && settled ? begin : undefined}
      />
      {search.isError && <Notice tone="bad">{sentenceOf(search.error)}</Notice>}
      {typed.length >= 2 && (
        <div className="flex items-center gap-3 border-t border-hairline pt-2">
          <Button icon={<UserPlus size={15} />} onClick={begin}>
            New customer
          </Button>
          {settled && hits.length === 0 && (
            <span className="text-sm text-ink-soft">Nobody found by that. Enter begins a new customer.</span>
          )}
        </div>
      )}
    </div>
  );
}

function Hit({ hit }: { hit: SchemaHitOut }) {
  return (
    <>
      <p className="font-semibold">
        {hit.customer.name}
        {hit.site && <span className="font-normal"> · {hit.site.name}</span>}
      </p>
      <p className="text-xs text-ink-soft">
        {[
          hit.because,
          hit.site && hit.because !== hit.site.address ? hit.site.address : '',
          hit.because.includes(hit.customer.phone) ? '' : hit.customer.phone,
        ]
          .filter(Boolean)
          .join(' · ')}
        {hit.site && hit.site.area === null && <b className="text-bad"> · outside every area</b>}
      </p>
    </>
  );
}
