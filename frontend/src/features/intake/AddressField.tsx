import { useState } from 'react';
import { useAddresses } from '@/features/roads';
import type { PickedPlace } from './model';

/** An address by typing; the place is fixed by choosing a suggestion or a point on the map. */
export function AddressField({
  picked,
  onPick,
}: {
  picked: PickedPlace | null;
  onPick: (place: PickedPlace | null) => void;
}) {
  const [text, setText] = useState('');
  const search = useAddresses(text);
  const shown = picked ? picked.address : text;
  return (
    <div>
      <label htmlFor="site-address" className="mb-0.5 block text-xs font-semibold text-ink-soft">
        Address
      </label>
      <input
        id="site-address"
        value={shown}
        placeholder="Type it, or click on the map"
        autoComplete="off"
        onChange={(event) => {
          onPick(null);
          setText(event.target.value);
        }}
        className="w-full rounded-sm border border-hairline bg-sheet px-2 py-1.5"
      />
      {picked ? (
        <p
          className={`mt-0.5 text-xs ${picked.area ? 'text-ink-soft' : 'font-semibold text-bad'}`}
          role="status"
        >
          {picked.area
            ? `In ${picked.area}.`
            : 'Outside every area: promise nothing before a dispatcher has said who could go.'}
        </p>
      ) : (
        <ul aria-label="Addresses found">
          {text.trim().length >= 3 &&
            (search.data ?? []).map((row) => (
              <li key={row.address}>
                <button
                  type="button"
                  className="w-full px-2 py-1 text-left text-sm hover:bg-copper-wash"
                  onClick={() => onPick(row)}
                >
                  {row.address}
                </button>
              </li>
            ))}
          {text.trim().length >= 3 && search.data?.length === 0 && (
            <li className="px-2 py-1 text-sm text-ink-soft">
              No such street. Check the spelling, or click on the map.
            </li>
          )}
        </ul>
      )}
    </div>
  );
}
