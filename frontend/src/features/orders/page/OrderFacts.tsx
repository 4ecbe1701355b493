import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaOrderDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { useTagWords } from '@/features/company';
import { useSkillName } from '@/features/people';
import { usePartName } from '@/features/stock';
import { asked, type Question } from '@/shared/questions';
import { length, stamp } from '@/shared/time';
import { useRestore } from '../queries';

export function Facts({ row }: { row: SchemaOrderDetailOut }) {
  const tagWords = useTagWords();
  const payer = row.payer?.name ?? (row.payer_address || row.customer.name);
  const questions = row.questions as unknown as Question[];
  const facts: [string, string][] = [
    ['Ask for', [row.contact_name || row.customer.name, row.contact_phone || row.customer.phone].join(' · ')],
    [
      'Equipment',
      [row.asset, ...row.more_assets]
        .map((asset) => (asset ? `${asset.kind} ${asset.make} ${asset.serial}` : ''))
        .filter(Boolean)
        .join('; ') || 'none named',
    ],
    ['Payer', `${payer} · ${row.billing}`],
    [
      'PO number',
      row.po_number || (row.customer.needs_po_number ? 'missing, and this customer wants one' : '–'),
    ],
    ['Priority', String(row.priority)],
    ['Due', row.due ? stamp(row.due) : 'no deadline'],
    ['Source', row.source || '–'],
    ['Tags', tagWords(row.tags) || '–'],
    ...asked(questions, row.extra).map(
      (question) => [question.label, answerWords(row.extra[question.key])] as [string, string],
    ),
  ];
  return (
    <div className="space-y-3 text-sm">
      <p className="whitespace-pre-line">{row.description}</p>
      <dl className="grid grid-cols-[7rem_1fr_7rem_1fr] gap-x-3 gap-y-1">
        {facts.map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-ink-soft">{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <div className="grid grid-cols-2 gap-4">
        <section aria-label="Note to the technician" className="border-l-2 border-copper pl-2">
          <h3 className="text-xs font-semibold text-ink-soft">Note to the technician</h3>
          <p className="whitespace-pre-line">{row.technician_note || 'nothing'}</p>
        </section>
        <section aria-label="Text on the invoice" className="border-l-2 border-hairline pl-2">
          <h3 className="text-xs font-semibold text-ink-soft">Text on the invoice</h3>
          <p className="whitespace-pre-line">{row.invoice_text || 'nothing'}</p>
        </section>
      </div>
    </div>
  );
}

export function Overrides({ row, canChange }: { row: SchemaOrderDetailOut; canChange: boolean }) {
  const names = { skill: useSkillName(), part: usePartName() };
  const restore = useRestore(row.id);
  if (!row.job_type) return null;
  const older = row.edition !== null && row.newest_edition !== null && row.newest_edition > row.edition;
  return (
    <section aria-label="Differs from the job type" className="text-sm">
      <h2 className="font-semibold">
        {row.job_type}{' '}
        <span className="font-normal text-ink-soft">
          as of edition {row.edition}
          {older ? `; it is at edition ${row.newest_edition} now, which changes nothing here` : ''}
        </span>
      </h2>
      {row.overrides.length === 0 && <p className="text-ink-soft">Nothing differs from it.</p>}
      <ul>
        {row.overrides.map((one) => (
          <li key={one.field} className="flex items-center gap-2">
            <span className="w-24 text-ink-soft">{one.label}</span>
            <b>{valueWords(one.field, one.now, names)}</b>
            <span className="text-ink-soft">instead of {valueWords(one.field, one.usual, names)}</span>
            {canChange && (
              <Button
                rank="quiet"
                disabled={restore.isPending}
                onClick={() =>
                  restore.mutate(
                    { version: row.version, field: one.field },
                    { onError: (error) => toast.error(sentenceOf(error)) },
                  )
                }
              >
                Set back
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function answerWords(value: unknown): string {
  if (value === null || value === undefined || value === '') return '–';
  return typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);
}

interface Names {
  skill: (code: string) => string;
  part: (code: string) => string;
}

function valueWords(field: string, value: unknown, names: Names): string {
  if (value === null || value === undefined) return 'nothing';
  if (field === 'duration_seconds') return length(value as number);
  if (field === 'needs')
    return (
      Object.entries(value as Record<string, number>)
        .map(([skill, level]) => `${names.skill(skill)} ${level}`)
        .join(', ') || 'no skill'
    );
  if (Array.isArray(value)) return `${value.length} ${value.length === 1 ? 'entry' : 'entries'}`;
  if (field === 'takes')
    return (
      Object.entries(value as Record<string, number>)
        .map(([part, count]) => `${count} ${names.part(part)}`)
        .join(', ') || 'no part'
    );
  return String(value);
}
