import { useState } from 'react';
import { Suggest } from '@/design/Suggest';
import { useCustomerSearch } from './queries';

interface Props {
  label: string;
  chosen: { id: number; name: string } | null;
  onChoose: (customer: { id: number; name: string } | null) => void;
  placeholder?: string;
}

/** Choose another customer by typing. */
export function CustomerPicker({ label, chosen, onChoose, placeholder }: Props) {
  const [text, setText] = useState('');
  const search = useCustomerSearch(chosen ? '' : text.trim());
  const found = new Map((search.data ?? []).map((hit) => [hit.customer.id, hit.customer]));
  return (
    <Suggest
      label={label}
      listLabel={`${label}: customers found`}
      value={chosen ? chosen.name : text}
      placeholder={placeholder}
      rows={chosen || text.trim().length < 2 ? [] : [...found.values()].slice(0, 6)}
      keyOf={(row) => row.id}
      show={(row) => (
        <>
          {row.name} <span className="text-ink-soft">{row.phone}</span>
        </>
      )}
      onType={(typed) => {
        if (chosen) onChoose(null);
        setText(typed);
      }}
      onChoose={(row) => {
        onChoose({ id: row.id, name: row.name });
        setText('');
      }}
    />
  );
}
