import { useState } from 'react';
import { Suggest } from '@/design/Suggest';
import type { PickedPlace } from './model';
import { useAddresses } from './queries';

interface Props {
  picked: PickedPlace | null;
  onPick: (place: PickedPlace | null) => void;
  /** Whether work is done there: then it matters in which area it lies. */
  isSite?: boolean;
}

/** An address by typing; the place is fixed by choosing a suggestion or a point on the map. */
export function AddressField({ picked, onPick, isSite = true }: Props) {
  const [text, setText] = useState('');
  const search = useAddresses(text);
  const searching = !picked && text.trim().length >= 3;
  return (
    <Suggest
      label="Address"
      listLabel="Addresses found"
      placeholder="Type it, or click on the map"
      value={picked ? picked.address : text}
      rows={searching ? (search.data ?? []) : []}
      keyOf={(row) => row.address}
      show={(row) => (
        <>
          {row.address}
          {(row.missing ?? 0) > 0 && (
            <span className="block text-xs font-semibold text-warn">
              There is no number {row.missing} in this street; this is the nearest one.
            </span>
          )}
        </>
      )}
      onType={(typed) => {
        onPick(null);
        setText(typed);
      }}
      onChoose={onPick}
      note={
        picked
          ? isSite && <AreaNote area={picked.area} />
          : searching &&
            search.data?.length === 0 && (
              <p className="px-2 py-1 text-sm text-ink-soft">
                No such street. Check the spelling, or click on the map.
              </p>
            )
      }
    />
  );
}

const AreaNote = ({ area }: { area: string | null }) => (
  <p className={`mt-0.5 text-xs ${area ? 'text-ink-soft' : 'font-semibold text-bad'}`} role="status">
    {area ? `In ${area}.` : 'Outside every area: promise nothing before a dispatcher has said who could go.'}
  </p>
);
