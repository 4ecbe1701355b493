import { useQuery } from '@tanstack/react-query';
import { v7 } from 'uuid';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { clockTime } from '@/shared/time';
import { partsQuery, vanQuery } from '../../queries';
import type { OwnVisit } from '../../sync/ahead';
import { inWords } from '../../trouble';
import { fitting, Lookup } from '../Lookup';
import { useRecord } from '../record';
import { CameOut } from './CameOut';
import { Line, type LineBody } from './Line';
import { lineOf } from './planned';

/** What was used: the planned parts first, then what else was, then what came out. */
export function Parts({ visit }: { visit: OwnVisit }) {
  const record = useRecord(visit.id);
  const van = useQuery(vanQuery).data ?? [];
  const { planned, used } = visit.report.entries;
  const lines = new Map(used.map((row) => [row.code, row]));
  const others = used.filter(({ code }) => !planned.some((part) => part.code === code));
  const put = (body: LineBody) => record.mutate({ kind: 'part', body });
  const onVan = (code: string) => van.find((row) => row.code === code);
  // Where nobody counts the van, nobody can say how many there are; where somebody does, what is not listed is not there.
  const there = (code: string) => (van.length === 0 ? undefined : (onVan(code)?.quantity ?? 0));
  return (
    <div className="space-y-6 p-4">
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      {planned.length > 0 && (
        <section aria-label="Planned parts" className="space-y-4">
          {planned.map((part) => (
            <Planned
              key={part.code}
              visit={visit}
              part={part}
              line={lines.get(part.code)}
              there={there(part.code)}
              shelf={onVan(part.code)?.shelf ?? ''}
              onPut={put}
            />
          ))}
        </section>
      )}
      {others.length > 0 && (
        <section aria-label="Also used" className="space-y-4">
          <h2 className="font-semibold">Also used</h2>
          {others.map((row) => (
            <Line
              key={row.id}
              visit={visit}
              row={row}
              serials={onVan(row.code)?.serials ?? []}
              there={there(row.code)}
              onPut={put}
              onDrop={() => record.mutate({ kind: 'part out', body: { id: row.id } })}
            />
          ))}
        </section>
      )}
      <Another onTake={(code, name) => put({ id: v7(), code, name, quantity: 1 })} />
      {used.length === 0 && planned.length === 0 && (
        <NothingUsed
          said={visit.report.entries.nothing_more.includes('parts')}
          onSay={(said) => record.mutate({ kind: 'nothing more', body: { of: 'parts', said } })}
        />
      )}
      <CameOut visit={visit} />
      <AskedFor visit={visit} />
    </div>
  );
}

interface PlannedProps {
  visit: OwnVisit;
  part: OwnVisit['report']['entries']['planned'][number];
  line: OwnVisit['report']['entries']['used'][number] | undefined;
  there: number | undefined;
  shelf: string;
  onPut: (body: LineBody) => void;
}

function Planned({ visit, part, line, there, shelf, onPut }: PlannedProps) {
  const body = (quantity: number): LineBody => ({
    id: line?.id ?? lineOf(visit.id, part.code),
    code: part.code,
    name: part.name,
    quantity,
  });
  const used = line !== undefined && line.quantity > 0;
  return (
    <div role="group" aria-label={part.name} className="space-y-2">
      <div>
        <p className="text-lg font-semibold">{part.name}</p>
        <p className="text-sm text-ink-soft">
          {part.quantity} planned{there === undefined ? '' : ` · ${there} on your van`}
          {shelf && `, shelf ${shelf}`}
        </p>
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Button size="thumb" aria-pressed={used} onClick={() => !used && onPut(body(part.quantity))}>
          Used
        </Button>
        <Button size="thumb" aria-pressed={line !== undefined && !used} onClick={() => onPut(body(0))}>
          Not needed
        </Button>
      </div>
      {used && <Line visit={visit} row={line} nameless serials={[]} there={there} onPut={onPut} />}
    </div>
  );
}

/** Another part, by typing or scanning; what it lies on is looked up on this phone. */
function Another({ onTake }: { onTake: (code: string, name: string) => void }) {
  const parts = useQuery(partsQuery).data ?? [];
  const van = useQuery(vanQuery).data ?? [];
  const there = new Map(van.map(({ code, quantity }) => [code, quantity]));
  const find = (text: string) =>
    fitting(
      parts,
      text,
      ({ name, number }) => `${name} ${number}`,
      ({ barcode }) => barcode,
    )
      .sort((one, other) => (there.get(other.code) ?? 0) - (there.get(one.code) ?? 0))
      .map(({ code, name, number }) => ({
        key: code,
        words: name,
        note: [number, there.has(code) ? `${there.get(code)} on your van` : 'not on your van']
          .filter(Boolean)
          .join(' · '),
      }));
  return (
    <Lookup
      label="Another part: name, number or label"
      scans
      find={find}
      onChoose={(code) => onTake(code, parts.find((row) => row.code === code)?.name ?? code)}
    />
  );
}

const NothingUsed = ({ said, onSay }: { said: boolean; onSay: (said: boolean) => void }) => (
  <Button size="thumb" className="w-full" aria-pressed={said} onClick={() => onSay(!said)}>
    No part was used
  </Button>
);

/** What was asked for from here, and what became of it. */
function AskedFor({ visit }: { visit: OwnVisit }) {
  if (visit.asked.length === 0) return null;
  return (
    <section aria-label="Asked for">
      <h2 className="font-semibold">Asked for</h2>
      <ul>
        {visit.asked.map((row) => (
          <li key={`${row.code} ${row.quantity} ${row.state}`} className="py-1">
            {row.quantity} × {row.part}: {row.state}
            {row.needed_by !== null && `, needed by ${clockTime(row.needed_by)}`}
            {row.answer && <span className="block text-ink-soft">“{row.answer}”</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
