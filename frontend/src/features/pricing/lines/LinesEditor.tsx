import { useRef, useState, type KeyboardEvent } from 'react';
import type { SchemaItemOut, SchemaSumsOut } from '@/api/types';
import { Suggest } from '@/design/Suggest';
import { price } from '@/shared/money';
import { useCurrency, useItems, useTaxCodes } from '../queries';
import { foundItems, LEAST_LETTERS, lineOfItem, lineOfWords, moved, type TypedLine } from './model';
import { LineRow } from './LineRow';

interface Props {
  lines: TypedLine[];
  onChange: (lines: TypedLine[]) => void;
  /** What they come to; of a moment ago while something is half typed. */
  sums: SchemaSumsOut | undefined;
  /** Lines the customer may tick: of quotes and job types. */
  canBeOptional?: boolean;
  /** On the phone: one below the other. */
  narrow?: boolean;
}

/** Lines found by typing, changed where they stand. Enter in the last field leads to the next line. */
export function LinesEditor({ lines, onChange, sums, canBeOptional = false, narrow = false }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const change = (key: string, changes: Partial<TypedLine>) =>
    onChange(lines.map((line) => (line.key === key ? { ...line, ...changes } : line)));
  const add = (line: TypedLine) => {
    onChange([...lines, line]);
    requestAnimationFrame(() =>
      frame.current?.querySelector<HTMLInputElement>(`[data-line="${line.key}"] [data-quantity]`)?.select(),
    );
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const key = (event.target as HTMLElement).closest<HTMLElement>('[data-line]')?.dataset.line;
    const at = lines.findIndex((line) => line.key === key);
    if (at < 0) return;
    const by =
      event.altKey && event.key === 'ArrowUp' ? -1 : event.altKey && event.key === 'ArrowDown' ? 1 : 0;
    if (by) onChange(moved(lines, at, by));
    else if (
      event.key === 'Enter' &&
      event.target instanceof HTMLInputElement &&
      event.target.type === 'text'
    )
      nextLine(frame.current, at)?.focus();
    else return;
    event.preventDefault();
  };
  const byKey = new Map((sums?.lines ?? []).map((row) => [row.key, row]));
  return (
    <div ref={frame} role="group" aria-label="Lines" onKeyDown={onKeyDown} className="text-sm">
      {lines.length > 0 && !narrow && <Head canBeOptional={canBeOptional} />}
      {lines.map((line) => (
        <LineRow
          key={line.key}
          line={line}
          sum={byKey.get(line.key)}
          canBeOptional={canBeOptional}
          narrow={narrow}
          onChange={(changes) => change(line.key, changes)}
          onRemove={() => onChange(lines.filter((one) => one.key !== line.key))}
        />
      ))}
      <AddLine lines={lines} onAdd={add} />
    </div>
  );
}

/** The first field of the line after this one, else the field that adds one. */
function nextLine(frame: HTMLElement | null, at: number): HTMLElement | null {
  const rows = frame?.querySelectorAll<HTMLElement>('[data-line]') ?? [];
  const next = rows[at + 1]?.querySelector<HTMLElement>('[data-quantity]');
  return next ?? frame?.querySelector<HTMLElement>('[role="combobox"]') ?? null;
}

const Head = ({ canBeOptional }: { canBeOptional: boolean }) => (
  <div className="grid grid-cols-[minmax(8rem,1fr)_4.25rem_4rem_5.5rem_3.5rem_6rem_4.25rem] gap-1 border-b border-hairline pb-0.5 text-xs font-semibold text-ink-soft">
    <span>What</span>
    <span className="text-right">How many</span>
    <span>Unit</span>
    <span className="text-right">Each</span>
    <span className="text-right">Off</span>
    <span className="text-right">Amount</span>
    <span>{canBeOptional ? 'If wished' : ''}</span>
  </div>
);

/** Three letters find an item; Enter takes it. Words that are none become a line of their own. */
function AddLine({ lines, onAdd }: { lines: TypedLine[]; onAdd: (line: TypedLine) => void }) {
  const items = useItems();
  const codes = useTaxCodes().data ?? [];
  const currency = useCurrency();
  const [text, setText] = useState('');
  const rows: SchemaItemOut[] = foundItems(items.data ?? [], text);
  const take = (line: TypedLine) => {
    setText('');
    onAdd(line);
  };
  const typed = text.trim().length >= LEAST_LETTERS;
  return (
    <div className="mt-1 max-w-xl">
      <Suggest
        label="Add a line"
        hideLabel
        placeholder="Add a line: three letters find it, or write it in your own words"
        listLabel="Items found"
        value={text}
        rows={rows}
        keyOf={(row) => row.key}
        show={(row) => (
          <span className="flex justify-between gap-2">
            <span className="truncate">{row.wording}</span>
            <span className="figures text-ink-soft">{price(row.price, currency)}</span>
          </span>
        )}
        onType={setText}
        onChoose={(row) => take(lineOfItem(row, lines))}
        onEnterWithout={() =>
          typed && take(lineOfWords(text, lines, codes.find((code) => !code.retired)?.key ?? ''))
        }
        note={
          typed && rows.length === 0 && items.isSuccess ? (
            <p className="text-xs text-ink-soft">
              Not on the price list. Enter adds it in these words; then say what it costs.
            </p>
          ) : null
        }
      />
    </div>
  );
}
