import { useId, useState, type KeyboardEvent, type ReactNode } from 'react';

interface Props<Row> {
  label: string;
  value: string;
  rows: Row[];
  keyOf: (row: Row) => string | number;
  show: (row: Row) => ReactNode;
  onType: (text: string) => void;
  onChoose: (row: Row) => void;
  placeholder?: string;
  note?: ReactNode;
  listLabel: string;
  hideLabel?: boolean;
  big?: boolean;
  autoFocus?: boolean;
  required?: boolean;
  /** Enter while nothing is found. */
  onEnterWithout?: () => void;
}

/** A field that suggests: arrows move, Enter takes, typing goes on narrowing. */
export function Suggest<Row>(props: Props<Row>) {
  const { rows, label, value, onType, onChoose, note } = props;
  const id = useId();
  const [active, setActive] = useState(0);
  const at = Math.min(active, rows.length - 1);
  const onKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const row = rows[at];
    if (event.key === 'ArrowDown') setActive(Math.min(rows.length - 1, at + 1));
    else if (event.key === 'ArrowUp') setActive(Math.max(0, at - 1));
    else if (event.key === 'Enter' && row !== undefined) onChoose(row);
    else if (event.key === 'Enter' && props.onEnterWithout) props.onEnterWithout();
    else return;
    event.preventDefault();
  };
  const box = props.big
    ? 'border-ink px-3 py-2.5 text-lg'
    : 'border-hairline px-2 py-1.5 placeholder:text-ink-soft/70';
  return (
    <div>
      <label
        htmlFor={id}
        className={props.hideLabel ? 'sr-only' : 'mb-0.5 block text-xs font-semibold text-ink-soft'}
      >
        {label}
      </label>
      <input
        id={id}
        type={props.big ? 'search' : 'text'}
        role="combobox"
        autoFocus={props.autoFocus}
        required={props.required}
        autoComplete="off"
        aria-expanded={rows.length > 0}
        aria-controls={`${id}-list`}
        aria-activedescendant={rows.length > 0 ? `${id}-${at}` : undefined}
        placeholder={props.placeholder}
        value={value}
        onChange={(event) => {
          setActive(0);
          onType(event.target.value);
        }}
        onKeyDown={onKey}
        className={`w-full rounded-sm border bg-sheet ${box}`}
      />
      <Options {...props} id={id} at={at} onActive={setActive} />
      {note}
    </div>
  );
}

interface OptionsProps<Row> extends Pick<Props<Row>, 'rows' | 'keyOf' | 'show' | 'onChoose' | 'listLabel'> {
  id: string;
  at: number;
  onActive: (index: number) => void;
}

function Options<Row>({ rows, keyOf, show, onChoose, listLabel, id, at, onActive }: OptionsProps<Row>) {
  return (
    <ul
      id={`${id}-list`}
      role="listbox"
      aria-label={listLabel}
      className={rows.length > 0 ? 'divide-y divide-hairline border-x border-b border-hairline' : ''}
    >
      {rows.map((row, index) => (
        <li
          key={keyOf(row)}
          id={`${id}-${index}`}
          role="option"
          aria-selected={index === at}
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onChoose(row)}
          onMouseEnter={() => onActive(index)}
          className={`cursor-pointer px-2 py-1.5 text-sm ${index === at ? 'bg-copper-wash' : 'bg-sheet'}`}
        >
          {show(row)}
        </li>
      ))}
    </ul>
  );
}
