import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaPriceListOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { ListAndOne } from '../parts';
import { useKeepList, usePriceLists } from '../queries';
import { OneList } from './OneList';

/** Lists of prices that differ from the standard ones, for the customers that belong to them. */
export function Lists({ canChange }: { canChange: boolean }) {
  const lists = usePriceLists();
  const [chosen, setChosen] = useState<number | null>(null);
  const row = lists.data?.find(({ id }) => id === chosen);
  return (
    <ListAndOne
      error={lists.error}
      wide
      list={
        <>
          {canChange && <NewList onMade={setChosen} />}
          <ul aria-label="Lists" className="divide-y divide-hairline border-y border-hairline text-sm">
            {lists.data?.map((list) => (
              <li key={list.id} className={list.id === chosen ? 'bg-copper-wash' : ''}>
                <button
                  type="button"
                  aria-current={list.id === chosen}
                  className="grid w-full grid-cols-[1fr_5rem_6rem] gap-2 px-3 py-1 text-left hover:bg-wash"
                  onClick={() => setChosen(list.id)}
                >
                  <b className={list.retired ? 'font-normal text-ink-soft line-through' : 'font-semibold'}>
                    {list.name}
                  </b>
                  <span>{list.price_count} prices</span>
                  <span className="text-ink-soft">{list.customer_count} customers</span>
                </button>
              </li>
            ))}
            {lists.data?.length === 0 && (
              <li className="px-3 py-2 text-ink-soft">
                No list yet: everybody pays the standard prices. A customer is put on a list on its own page.
              </li>
            )}
          </ul>
        </>
      }
    >
      {row && <OneList key={row.id} list={row} canChange={canChange} />}
    </ListAndOne>
  );
}

function NewList({ onMade }: { onMade: (id: number) => void }) {
  const [name, setName] = useState('');
  const keep = useKeepList(null);
  const made = (list: SchemaPriceListOut) => {
    setName('');
    toast.success(`${list.name} is made`);
    onMade(list.id);
  };
  return (
    <form
      aria-label="New list"
      className="space-y-1 px-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate({ name, retired: false }, { onSuccess: made });
      }}
    >
      <div className="flex items-end gap-2">
        <TextField
          label="Name of a new list"
          className="flex-1"
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" disabled={!name.trim() || keep.isPending}>
          Make the list
        </Button>
      </div>
      <FormError error={keep.error} />
    </form>
  );
}
