import type { SchemaPartIn, SchemaTieIn } from '@/api/types';
import { Button } from '@/design/Button';

const BOX = 'rounded-sm border border-hairline bg-sheet px-1.5 py-1 text-sm';
const KINDS: [string, string][] = [
  ['after', 'after'],
  ['together', 'starting with'],
  ['same_hands', 'by the hands of'],
];

interface Props {
  first: string;
  visits: SchemaPartIn[];
  onChange: (visits: SchemaPartIn[]) => void;
}

/** The visits that follow the first one, and what ties them to those before. */
export function FurtherVisits({ first, visits, onChange }: Props) {
  const set = (index: number, changes: Partial<SchemaPartIn>) =>
    onChange(visits.map((row, at) => (at === index ? { ...row, ...changes } : row)));
  const names = [first || 'the first visit', ...visits.map((row) => row.title)];
  return (
    <div className="space-y-1.5 text-sm">
      {visits.map((row, index) => {
        const ties = row.ties ?? [];
        const setTie = (at: number, changes: Partial<SchemaTieIn>) =>
          set(index, { ties: ties.map((tie, n) => (n === at ? { ...tie, ...changes } : tie)) });
        return (
          <div
            key={index}
            className="flex flex-wrap items-center gap-1.5 border-b border-hairline pb-1.5"
            role="group"
            aria-label={`Visit ${index + 2}`}
          >
            <span className="figures w-4 text-ink-soft">{index + 2}</span>
            <input
              aria-label="What for"
              className={`${BOX} w-44`}
              value={row.title}
              onChange={(event) => set(index, { title: event.target.value })}
            />
            <input
              aria-label="Minutes"
              placeholder="min"
              inputMode="numeric"
              className={`${BOX} w-16`}
              value={row.seconds ? String(row.seconds / 60) : ''}
              onChange={(event) =>
                set(index, { seconds: event.target.value.trim() ? Number(event.target.value) * 60 : null })
              }
            />
            <input
              aria-label="Crew"
              className={`${BOX} w-12`}
              value={row.crew ?? 1}
              onChange={(event) => set(index, { crew: Number(event.target.value) || 1 })}
            />
            {ties.map((tie, at) => (
              <span key={at} className="flex items-center gap-1">
                <select
                  aria-label="Tie"
                  className={BOX}
                  value={tie.kind}
                  onChange={(event) => setTie(at, { kind: event.target.value })}
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
                  onChange={(event) => setTie(at, { to: Number(event.target.value) })}
                >
                  {names.slice(0, index + 1).map((name, number) => (
                    <option key={number} value={number + 1}>
                      {name}
                    </option>
                  ))}
                </select>
                <Button
                  rank="quiet"
                  aria-label="Untie"
                  onClick={() => set(index, { ties: ties.filter((_, n) => n !== at) })}
                >
                  ✕
                </Button>
              </span>
            ))}
            <Button
              rank="quiet"
              onClick={() =>
                set(index, { ties: [...ties, { kind: 'after', to: index + 1, least: 0, greatest: null }] })
              }
            >
              tie
            </Button>
            <Button
              rank="quiet"
              className="ml-auto"
              aria-label={`Remove ${row.title || 'the visit'}`}
              onClick={() => onChange(without(visits, index))}
            >
              ✕
            </Button>
          </div>
        );
      })}
      <Button
        onClick={() =>
          onChange([
            ...visits,
            {
              title: '',
              seconds: null,
              needs: null,
              crew: 1,
              ties: [{ kind: 'after', to: visits.length + 1, least: 0, greatest: null }],
            },
          ])
        }
      >
        Add a visit
      </Button>
    </div>
  );
}

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
