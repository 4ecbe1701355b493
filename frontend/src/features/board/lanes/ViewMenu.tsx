import { SlidersHorizontal } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { COLUMNS, columnWords } from '../axis';
import { HUING_WORDS, HUINGS, LABEL_WORDS, LABELS } from '../hues';
import { GROUPING_WORDS, GROUPINGS, SORTING_WORDS, SORTINGS } from '../rows';
import type { BoardSearch } from '../search';

interface Props {
  search: BoardSearch;
  change: (changes: Partial<BoardSearch>) => void;
}

/** How the board is drawn: kept with the address, and for the next time. */
export function ViewMenu({ search, change }: Props) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button
          rank="quiet"
          icon={<SlidersHorizontal size={16} />}
          aria-label="Drawing"
          title="How the board is drawn: columns, groups, order, hue"
        />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="How the board is drawn"
          className="z-40 w-72 space-y-2 rounded-sm border border-ink bg-sheet p-3"
        >
          <Choices search={search} change={change} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const Choices = ({ search, change }: Props) => (
  <>
    <Choice
      label="Columns"
      value={String(search.column ?? '')}
      options={[['', 'fit the screen'], ...COLUMNS.map((c) => [String(c), columnWords(c)] as const)]}
      onChange={(value) => change({ column: (Number(value) || undefined) as BoardSearch['column'] })}
    />
    <Choice
      label="Technicians"
      value={search.group ?? 'none'}
      options={GROUPINGS.map((key) => [key, GROUPING_WORDS[key]])}
      onChange={(value) => change({ group: value === 'none' ? undefined : (value as never) })}
    />
    <Choice
      label="Beside a name"
      value={search.heads ?? ''}
      options={[
        ['', 'as the screen allows'],
        ['narrow', 'hours'],
        ['wide', 'hours, skills and areas'],
      ]}
      onChange={(value) => change({ heads: (value || undefined) as BoardSearch['heads'] })}
    />
    <Choice
      label="Sorted by"
      value={search.sort ?? 'name'}
      options={SORTINGS.map((key) => [key, SORTING_WORDS[key]])}
      onChange={(value) => change({ sort: value === 'name' ? undefined : (value as never) })}
    />
    <Choice
      label="Written on a visit"
      value={search.label ?? 'site'}
      options={LABELS.map((key) => [key, LABEL_WORDS[key]])}
      onChange={(value) => change({ label: value === 'site' ? undefined : (value as never) })}
    />
    <Choice
      label="Hue of a visit"
      value={search.hue ?? 'none'}
      options={HUINGS.map((key) => [key, HUING_WORDS[key]])}
      onChange={(value) => change({ hue: value === 'none' ? undefined : (value as never) })}
    />
  </>
);

interface ChoiceProps {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}

function Choice({ label, value, options, onChange }: ChoiceProps) {
  return (
    <SelectField label={label} value={value} onChange={(event) => onChange(event.target.value)}>
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </SelectField>
  );
}
