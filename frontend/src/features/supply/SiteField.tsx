import { useEffect, useState } from 'react';
import { SelectField } from '@/design/Field';
import { Suggest } from '@/design/Suggest';
import { useCustomer, useCustomerSearch } from '@/features/customers';

export interface ChosenSite {
  siteId: number;
  assetId: number | null;
}

interface Props {
  label?: string | undefined;
  error?: string | undefined;
  value: ChosenSite | null;
  onChoose: (site: ChosenSite | null) => void;
}

/** A customer's site, found by typing, and a piece of equipment there. */
export function SiteField(props: Props) {
  return (
    <div>
      <Choosing {...props} />
      {props.error && (
        <p role="alert" className="mt-0.5 text-xs text-bad">
          {props.error}
        </p>
      )}
    </div>
  );
}

function Choosing({ label = 'Customer, site or address', value, onChoose }: Props) {
  const [text, setText] = useState('');
  const [customerId, setCustomerId] = useState<number | null>(null);
  const found = useCustomerSearch(text);
  if (customerId === null)
    return (
      <Suggest
        label={label}
        listLabel="Customers"
        value={text}
        rows={text.trim().length > 1 ? (found.data ?? []).slice(0, 6) : []}
        keyOf={(row) => `${row.customer.id} ${row.site?.id ?? ''} ${row.asset?.id ?? ''}`}
        show={(row) => [row.customer.name, row.site?.name].filter(Boolean).join(', ')}
        onType={setText}
        onChoose={(row) => {
          setCustomerId(row.customer.id);
          if (row.site) onChoose({ siteId: row.site.id, assetId: row.asset?.id ?? null });
        }}
      />
    );
  return (
    <OfCustomer
      customerId={customerId}
      value={value}
      onChoose={onChoose}
      onAgain={() => {
        setCustomerId(null);
        onChoose(null);
      }}
    />
  );
}

interface OfProps extends Props {
  customerId: number;
  onAgain: () => void;
}

function OfCustomer({ customerId, value, onChoose, onAgain }: OfProps) {
  const customer = useCustomer(customerId).data;
  const sites = customer?.sites ?? [];
  const site = sites.find((row) => row.id === value?.siteId);
  const only = sites.length === 1 ? sites[0]!.id : null;
  // Where there is one only, nobody has to choose it.
  useEffect(() => {
    if (only !== null && value === null) onChoose({ siteId: only, assetId: null });
  }, [only, value, onChoose]);
  return (
    <div className="flex items-end gap-2 text-sm">
      <p className="pb-1.5">
        <b>{customer?.name ?? '…'}</b>{' '}
        <button type="button" className="underline" onClick={onAgain}>
          another one
        </button>
      </p>
      <SelectField
        label="Site"
        className="w-56"
        value={value?.siteId ?? ''}
        onChange={(event) =>
          onChoose(event.target.value ? { siteId: Number(event.target.value), assetId: null } : null)
        }
      >
        <option value="">choose…</option>
        {sites.map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </SelectField>
      {value && site && site.assets.length > 0 && (
        <SelectField
          label="Equipment"
          className="w-56"
          value={value.assetId ?? ''}
          onChange={(event) => onChoose({ ...value, assetId: Number(event.target.value) || null })}
        >
          <option value="">not said</option>
          {site.assets.map((row) => (
            <option key={row.id} value={row.id}>
              {[row.kind, row.make, row.model, row.serial].filter(Boolean).join(' ')}
            </option>
          ))}
        </SelectField>
      )}
    </div>
  );
}
