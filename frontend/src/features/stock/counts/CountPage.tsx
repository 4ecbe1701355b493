import { useParams } from '@tanstack/react-router';
import { useState, type KeyboardEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaCountLineOut, SchemaCountSheetOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { complain } from '@/shared/complain';
import { PartChoice } from '../PartChoice';
import { useCountSheet, useCountStep, useEnterFound } from '../queries';
import { Differences } from './Differences';

/** One count: blind while it is counted, then its differences. */
export function CountPage() {
  const sheetId = Number((useParams({ strict: false }) as { sheetId: string }).sheetId);
  const sheet = useCountSheet(sheetId);
  const canMove = may(useSession(), 'move_stock');
  if (sheet.isError)
    return (
      <div className="p-4">
        <Notice tone="bad">{sentenceOf(sheet.error)}</Notice>
      </div>
    );
  if (!sheet.data) return <p className="p-4 text-ink-soft">One moment…</p>;
  const row = sheet.data;
  return (
    <div className="max-w-4xl space-y-4 p-4">
      <header>
        <h1 className="text-lg font-semibold">
          Count of {row.place}: {row.scope}
          {row.shelf && ` ${row.shelf}`}
        </h1>
        <p className="text-sm text-ink-soft">
          {row.state === 'open'
            ? 'Say what lies there. What the books say is not shown until all is counted; work may go on meanwhile.'
            : `${row.state}; counted by ${row.counted_by}${row.booked_by ? `, booked by ${row.booked_by}` : ''}`}
        </p>
      </header>
      {row.state === 'open' ? (
        <Counting sheet={row} canMove={canMove} />
      ) : (
        <Differences key={row.version} sheet={row} canMove={canMove} />
      )}
    </div>
  );
}

function Counting({ sheet, canMove }: { sheet: SchemaCountSheetOut; canMove: boolean }) {
  const enter = useEnterFound(sheet.id);
  const step = useCountStep(sheet.id);
  const [more, setMore] = useState('');
  const keep = (code: string, quantity: number, serials: string[]) =>
    enter.mutateAsync([{ code, quantity, serials }]);
  const take = (which: 'finish' | 'drop', words: string) =>
    step.mutate(
      { step: which, version: sheet.version },
      { onSuccess: () => toast.success(words), onError: complain },
    );
  return (
    <>
      <p className="text-sm" role="status">
        {sheet.counted} of {sheet.lines.length} counted
      </p>
      <Lines sheet={sheet} canMove={canMove} onFound={keep} />
      {canMove && (
        <>
          <PartChoice
            label="Something else lies there"
            value={more}
            but={sheet.lines.map((line) => line.code)}
            onChoose={(code) => {
              setMore('');
              keep(code, 0, []).catch(complain);
            }}
          />
          <div className="flex gap-2">
            <Button
              rank="main"
              disabled={sheet.counted < sheet.lines.length || step.isPending}
              onClick={() => take('finish', 'All is counted')}
            >
              All is counted: show the differences
            </Button>
            <Button
              rank="quiet"
              disabled={step.isPending}
              onClick={() => take('drop', 'The count is dropped')}
            >
              Drop this count
            </Button>
          </div>
        </>
      )}
    </>
  );
}

interface LinesProps {
  sheet: SchemaCountSheetOut;
  canMove: boolean;
  onFound: (code: string, quantity: number, serials: string[]) => Promise<unknown>;
}

const Lines = ({ sheet, canMove, onFound }: LinesProps) => (
  <table className="w-full text-sm" aria-label="To be counted">
    <thead>
      <tr className="border-b border-hairline text-left text-xs text-ink-soft">
        {['Shelf', 'Part', 'Number', 'Found'].map((title) => (
          <th key={title} scope="col" className="pr-3 font-semibold">
            {title}
          </th>
        ))}
      </tr>
    </thead>
    <tbody>
      {sheet.lines.map((line) => (
        <CountRow key={line.code} line={line} canMove={canMove} onFound={onFound} />
      ))}
    </tbody>
  </table>
);

interface RowProps {
  line: SchemaCountLineOut;
  canMove: boolean;
  onFound: (code: string, quantity: number, serials: string[]) => Promise<unknown>;
}

/** A field by part: left or with Enter it is kept; Enter goes on to the next one. */
function CountRow({ line, canMove, onFound }: RowProps) {
  const bySerial = line.tracking === 'serial number';
  const kept = line.found === null ? '' : bySerial ? line.serials.join(' ') : String(line.found);
  const [typed, setTyped] = useState<string | null>(null);
  const value = typed ?? kept;
  const serials = value.split(/[\s,;]+/).filter(Boolean);
  const right = bySerial || /^\d{0,6}$/.test(value.trim());
  const keep = () => {
    if (typed === null || !right || typed.trim() === kept) return setTyped(null);
    if (!bySerial && typed.trim() === '') return setTyped(null);
    // What is refused stays as it was typed.
    onFound(line.code, bySerial ? serials.length : Number(typed), bySerial ? serials : []).then(
      () => setTyped((now) => (now === typed ? null : now)),
      complain,
    );
  };
  const onKey = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    const fields = [...(event.currentTarget.closest('table')?.querySelectorAll('input') ?? [])];
    keep();
    fields[fields.indexOf(event.currentTarget) + 1]?.focus();
  };
  return (
    <tr className="border-b border-hairline">
      <td className="py-1 pr-3 font-semibold">{line.shelf}</td>
      <td className="pr-3">{line.part}</td>
      <td className="figures pr-3 text-ink-soft">{line.number}</td>
      <td>
        {canMove ? (
          <input
            aria-label={bySerial ? `Serial numbers of ${line.part}` : `${line.part} found`}
            aria-invalid={!right}
            inputMode={bySerial ? 'text' : 'numeric'}
            placeholder={bySerial ? 'serial numbers, or 0 for none' : ''}
            className={`figures rounded-sm border border-hairline bg-sheet px-1.5 py-0.5 ${bySerial ? 'w-72' : 'w-20 text-right'}`}
            value={value}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={keep}
            onKeyDown={onKey}
          />
        ) : (
          kept
        )}
      </td>
    </tr>
  );
}
