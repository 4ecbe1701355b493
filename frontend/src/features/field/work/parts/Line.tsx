import { useState } from 'react';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import type { OwnVisit } from '../../sync/ahead';
import type { EntryBodies, UsedPart } from '../../sync/entries';
import { Amount } from '../Amount';
import { THUMB } from '../thumb';
import { NotThere } from './NotThere';

export type LineBody = EntryBodies['part'];

interface Props {
  visit: OwnVisit;
  row: UsedPart;
  /** The name stands above it already. */
  nameless?: boolean;
  /** How many lie on the own van by the books; undefined: nobody counts it there. */
  there: number | undefined;
  /** The pieces on the own van, of a part that has numbers. */
  serials: readonly string[];
  onPut: (body: LineBody) => void;
  onDrop?: () => void;
}

const bodyOf = ({ id, code, name, quantity, serials, batch, place_id, elsewhere }: UsedPart): LineBody => ({
  id,
  code,
  name,
  quantity,
  serials,
  batch,
  place_id: elsewhere ? null : place_id,
  elsewhere,
});

/** So many of one part: how many, which pieces, and from where. */
export function Line({ visit, row, nameless = false, there, serials, onPut, onDrop }: Props) {
  const [more, setMore] = useState(false);
  const put = (change: Partial<LineBody>) => onPut({ ...bodyOf(row), ...change });
  const lacks = there !== undefined && !row.elsewhere && !row.booked && there < row.quantity;
  return (
    <div role="group" aria-label={`${row.name}, used`} className="space-y-2">
      {!nameless && <p className="text-lg font-semibold">{row.name}</p>}
      <div className="flex flex-wrap items-center gap-2">
        <Amount label="How many" amount={row.quantity} onChange={(quantity) => put({ quantity })} />
        <Button size="thumb" rank="quiet" aria-expanded={more} onClick={() => setMore(!more)}>
          {row.elsewhere ? `from: ${row.elsewhere}` : 'More'}
        </Button>
        {onDrop && (
          <Button size="thumb" rank="quiet" onClick={onDrop}>
            Take off
          </Button>
        )}
      </div>
      {row.serials.length > 0 && <p className="text-sm">Numbers: {row.serials.join(', ')}</p>}
      {lacks && <NotThere visit={visit} code={row.code} name={row.name} quantity={row.quantity - there} />}
      {more && <Origin row={row} serials={serials} onPut={put} />}
    </div>
  );
}

interface OriginProps {
  row: UsedPart;
  serials: readonly string[];
  onPut: (change: Partial<LineBody>) => void;
}

/** Where it came from, and which pieces they are. */
function Origin({ row, serials, onPut }: OriginProps) {
  const [elsewhere, setElsewhere] = useState(row.elsewhere !== '');
  const [numbers, setNumbers] = useState(row.serials.join(' '));
  const split = (text: string) => [...new Set(text.split(/[\s,;]+/).filter(Boolean))];
  const keepNumbers = (text: string) => {
    const found = split(text);
    onPut(found.length > 0 ? { serials: found, quantity: found.length } : { serials: [] });
  };
  return (
    <div className="space-y-3 border-l-4 border-hairline pl-3">
      <SelectField
        label="Taken from"
        className={THUMB}
        value={elsewhere ? 'elsewhere' : 'van'}
        onChange={(event) => {
          setElsewhere(event.target.value === 'elsewhere');
          if (event.target.value === 'van') onPut({ elsewhere: '', place_id: null });
        }}
      >
        <option value="van">Your van</option>
        <option value="elsewhere">Elsewhere</option>
      </SelectField>
      {elsewhere && (
        <TextField
          label="From where?"
          className={THUMB}
          maxLength={120}
          defaultValue={row.elsewhere}
          hint="The shop it was bought at, a colleague, the customer. Your van stays as it is."
          onBlur={(event) => event.target.value.trim() && onPut({ elsewhere: event.target.value.trim() })}
        />
      )}
      <TextField
        label="Serial numbers, with blanks between them"
        className={THUMB}
        autoComplete="off"
        list={`serials of ${row.id}`}
        value={numbers}
        onChange={(event) => setNumbers(event.target.value)}
        onBlur={() => numbers.trim() !== row.serials.join(' ') && keepNumbers(numbers)}
      />
      <datalist id={`serials of ${row.id}`}>
        {serials.map((serial) => (
          <option key={serial} value={serial} />
        ))}
      </datalist>
    </div>
  );
}
