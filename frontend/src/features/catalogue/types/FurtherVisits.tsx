import type { SchemaPartIn, SchemaTieIn } from '@/api/types';
import { Button } from '@/design/Button';

const BOX = 'rounded-sm border border-hairline bg-sheet px-1.5 py-1 text-sm';
const KINDS: [string, string][] = [
  ['after', 'after'],
  ['together', 'starting with'],
  ['same_technician', 'by the technician of'],
];

interface Props {
  first: string;
  visits: SchemaPartIn[];
  onChange: (visits: SchemaPartIn[]) => void;
}

/** The visits that follow the first one, and what ties them to those before. */
export function FurtherVisits({ first, visits, onChange }: Props) {
  const names = [first || 'the first visit', ...visits.map((row) => row.title)];
  const add = () =>
    onChange([
      ...visits,
      { title: '', seconds: null, needs: null, crew: 1, ties: [afterThe(visits.length + 1)] },
    ]);
  return (
    <div className="space-y-1.5 text-sm">
      {visits.map((row, index) => (
        <Further
          key={index}
          number={index + 2}
          row={row}
          before={names.slice(0, index + 1)}
          set={(changes) =>
            onChange(visits.map((other, at) => (at === index ? { ...row, ...changes } : other)))
          }
          onRemove={() => onChange(without(visits, index))}
        />
      ))}
      <Button onClick={add}>Add a visit</Button>
    </div>
  );
}

const afterThe = (to: number): SchemaTieIn => ({ kind: 'after', to, least: 0, greatest: null });

interface FurtherProps {
  number: number;
  row: SchemaPartIn;
  /** What the visits before it are called. */
  before: string[];
  set: (changes: Partial<SchemaPartIn>) => void;
  onRemove: () => void;
}

function Further({ number, row, before, set, onRemove }: FurtherProps) {
  const ties = row.ties ?? [];
  return (
    <div
      className="flex flex-wrap items-center gap-1.5 border-b border-hairline pb-1.5"
      role="group"
      aria-label={`Visit ${number}`}
    >
      <span className="figures w-4 text-ink-soft">{number}</span>
      <input
        aria-label="What for"
        className={`${BOX} w-44`}
        value={row.title}
        onChange={(event) => set({ title: event.target.value })}
      />
      <input
        aria-label="Minutes"
        placeholder="min"
        inputMode="numeric"
        className={`${BOX} w-16`}
        value={row.seconds ? String(row.seconds / 60) : ''}
        onChange={({ target }) => set({ seconds: target.value.trim() ? Number(target.value) * 60 : null })}
      />
      <input
        aria-label="Crew"
        className={`${BOX} w-12`}
        value={row.crew ?? 1}
        onChange={(event) => set({ crew: Number(event.target.value) || 1 })}
      />
      {ties.map((tie, at) => (
        <Tie
          key={at}
          tie={tie}
          before={before}
          set={(changes) => set({ ties: ties.map((one, n) => (n === at ? { ...one, ...changes } : one)) })}
          onUntie={() => set({ ties: ties.filter((_, n) => n !== at) })}
        />
      ))}
      <Button rank="quiet" onClick={() => set({ ties: [...ties, afterThe(number - 1)] })}>
        tie
      </Button>
      <Button
        rank="quiet"
        className="ml-auto"
        aria-label={`Remove ${row.title || 'the visit'}`}
        onClick={onRemove}
      >
        ✕
      </Button>
    </div>
  );
}

interface TieProps {
  tie: SchemaTieIn;
  before: string[];
  set: (changes: Partial<SchemaTieIn>) => void;
  onUntie: () => void;
}

const Tie = ({ tie, before, set, onUntie }: TieProps) => (
  <span className="flex items-center gap-1">
    <select
      aria-label="Tie"
      className={BOX}
      value={tie.kind}
      onChange={(event) => set({ kind: event.target.value })}
    >
      {KINDS.map(([kind, words]) => (
        <option key={kind} value={kind}>
          {words}
        </option>
      ))}
    </select>
    <select
      aria-label="Tied to"
      className={BOX}
      value={tie.to}
      onChange={(event) => set({ to: Number(event.target.value) })}
    >
      {before.map((name, number) => (
        <option key={number} value={number + 1}>
          {name}
        </option>
      ))}
    </select>
    <Button rank="quiet" aria-label="Untie" onClick={onUntie}>
      ✕
    </Button>
  </span>
);

/** Ties name visits by their number: those to the one that goes go too, those to later ones count one less. */
function without(visits: SchemaPartIn[], index: number): SchemaPartIn[] {
  const gone = index + 2;
  return visits
    .filter((_, at) => at !== index)
    .map((row) => ({
      ...row,
      ties: (row.ties ?? [])
        .filter((tie) => tie.to !== gone)
        .map((tie) => (tie.to > gone ? { ...tie, to: tie.to - 1 } : tie)),
    }));
}
