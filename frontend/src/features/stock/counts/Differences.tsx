import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaCountLineOut, SchemaCountSheetOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';
import { useCountStep, useExplain } from '../queries';

const signed = (number: number) => (number > 0 ? `+${number}` : `−${Math.abs(number)}`);

/** What was found against the books, what it is worth, and why; booked, with a second person's yes where it has to be. */
export function Differences({ sheet, canMove }: { sheet: SchemaCountSheetOut; canMove: boolean }) {
  const currency = useCurrency();
  const explain = useExplain(sheet.id);
  const step = useCountStep(sheet.id);
  const rows = sheet.lines.filter((line) => line.difference !== 0);
  const [words, setWords] = useState<Record<string, string>>({});
  const wordsOf = (line: SchemaCountLineOut) => words[line.code] ?? line.explanation;
  const worth = rows.reduce((sum, line) => sum + (line.worth ?? 0), 0);
  const open = sheet.state === 'counted' && canMove;
  const book = async () => {
    let version = sheet.version;
    if (Object.keys(words).length > 0)
      version = (await explain.mutateAsync({ version: sheet.version, words })).version;
    await step.mutateAsync({ step: 'book', version });
    toast.success(`The books say what was found at ${sheet.place}`);
  };
  return (
    <div className="space-y-3 text-sm">
      {rows.length === 0 ? (
        <Notice tone="good">✓ All is as the books say.</Notice>
      ) : (
        <p>
          {rows.length} of {sheet.lines.length} parts differ, worth {price(worth, currency)} together.
        </p>
      )}
      {rows.length > 0 && (
        <DifferenceTable
          rows={rows}
          open={open}
          wordsOf={wordsOf}
          onWords={(line, said) => setWords({ ...words, [line.code]: said })}
        />
      )}
      {open && <Booking sheet={sheet} />}
      <FormError error={explain.error ?? step.error} />
      {open && (
        <Button
          rank="main"
          disabled={
            step.isPending ||
            explain.isPending ||
            rows.some((line) => !wordsOf(line).trim()) ||
            (sheet.second && sheet.counted_by_me)
          }
          onClick={() => void book().catch(() => undefined)}
        >
          Book the differences
        </Button>
      )}
      {open && (
        <Drop busy={step.isPending} onDrop={() => step.mutate({ step: 'drop', version: sheet.version })} />
      )}
    </div>
  );
}

interface TableProps {
  rows: SchemaCountLineOut[];
  open: boolean;
  wordsOf: (line: SchemaCountLineOut) => string;
  onWords: (line: SchemaCountLineOut, words: string) => void;
}

function DifferenceTable({ rows, open, wordsOf, onWords }: TableProps) {
  const currency = useCurrency();
  return (
    <table className="w-full" aria-label="Differences">
      <thead>
        <tr className="border-b border-hairline text-left text-xs text-ink-soft">
          {['Part', 'By the books', 'Moved meanwhile', 'Found', 'Difference', 'Worth', 'Why'].map((title) => (
            <th key={title} scope="col" className="pr-3 font-semibold">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((line) => (
          <tr key={line.code} className="border-b border-hairline">
            <th scope="row" className="py-1 pr-3 text-left font-normal">
              {line.part}
            </th>
            <td className="figures pr-3">{line.on_books}</td>
            <td className="figures pr-3">{line.moved ? signed(line.moved) : ''}</td>
            <td className="figures pr-3">{line.found}</td>
            <td className="figures pr-3 font-semibold">{signed(line.difference ?? 0)}</td>
            <td className="figures pr-3">
              {line.worth == null ? 'no cost known' : price(line.worth, currency)}
            </td>
            <td>
              {open ? (
                <TextField
                  quiet
                  label={`Why ${line.part} differs`}
                  maxLength={200}
                  value={wordsOf(line)}
                  onChange={(event) => onWords(line, event.target.value)}
                />
              ) : (
                line.explanation
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const Drop = ({ busy, onDrop }: { busy: boolean; onDrop: () => void }) => (
  <Button rank="quiet" disabled={busy} onClick={onDrop}>
    Drop this count
  </Button>
);

const Booking = ({ sheet }: { sheet: SchemaCountSheetOut }) =>
  sheet.second ? (
    <Notice tone="warn">
      {sheet.counted_by_me
        ? 'These differences are worth so much that somebody else than you has to book them.'
        : `${sheet.counted_by} counted. Your yes is needed, for these differences are worth more than the limit.`}
    </Notice>
  ) : null;
