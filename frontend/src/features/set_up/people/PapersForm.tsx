import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaCertificateIn, SchemaTechnicianRecordOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { FileChoice } from '@/design/FileChoice';
import { keepAtDesk } from '@/design/FileList';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { useCertificates } from '@/features/people';
import { serverNow } from '@/shared/clock';
import { addDays, isoDay } from '@/shared/time';
import { useSetTechnician } from '../queries';

/** So many days before its end a certificate is pointed at. */
const WARN_DAYS = 30;

interface Props {
  person: SchemaTechnicianRecordOut;
  canChange: boolean;
}

/** The certificates somebody holds: number, and last day. Visits that ask for one go to nobody whose has run out. */
export function PapersForm({ person, canChange }: Props) {
  const kinds = useCertificates().data ?? [];
  const { certificates } = useSetTechnician();
  const [rows, setRows] = useState<SchemaCertificateIn[]>(person.certificates);
  const set = (at: number, change: Partial<SchemaCertificateIn>) =>
    setRows(rows.map((row, number) => (number === at ? { ...row, ...change } : row)));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    certificates.mutate(
      { id: person.id, version: person.version, certificates: rows },
      { onSuccess: () => toast.success(`The certificates of ${person.name} are saved`) },
    );
  };
  const nameOf = (code: string) => kinds.find((kind) => kind.code === code)?.name ?? code;
  return (
    <form onSubmit={submit} aria-label="Certificates" className="max-w-2xl space-y-2">
      <h2 className="font-semibold">Certificates</h2>
      {rows.length === 0 && <p className="text-sm text-ink-soft">None.</p>}
      <fieldset disabled={!canChange} className="space-y-1">
        {rows.map((row, at) => (
          <Paper
            key={`${row.code} ${at}`}
            name={nameOf(row.code)}
            row={row}
            quiet={at > 0}
            onChange={(change) => set(at, change)}
            onRemove={() => setRows(rows.filter((_, number) => number !== at))}
          />
        ))}
        {canChange && (
          <div className="flex items-end gap-2 pt-1">
            <SelectField
              label="Add a certificate"
              value=""
              onChange={(event) =>
                event.target.value &&
                setRows([...rows, { code: event.target.value, number: '', valid_until: null }])
              }
            >
              <option value="">choose…</option>
              {kinds
                .filter((kind) => !kind.retired)
                .map((kind) => (
                  <option key={kind.code} value={kind.code}>
                    {kind.name}
                  </option>
                ))}
            </SelectField>
            <Button type="submit" rank="main" disabled={certificates.isPending}>
              Save certificates
            </Button>
          </div>
        )}
      </fieldset>
      <FormError error={certificates.error} />
    </form>
  );
}

interface PaperProps {
  name: string;
  row: SchemaCertificateIn;
  quiet: boolean;
  onChange: (change: Partial<SchemaCertificateIn>) => void;
  onRemove: () => void;
}

const Paper = ({ name, row, quiet, onChange, onRemove }: PaperProps) => (
  <div
    role="group"
    aria-label={name}
    className="grid grid-cols-[10rem_1fr_9rem_6rem_6rem_2rem] items-end gap-2"
  >
    <b className="pb-1.5 text-sm">{name}</b>
    <TextField
      label="Number"
      quiet={quiet}
      maxLength={40}
      value={row.number ?? ''}
      onChange={(event) => onChange({ number: event.target.value })}
    />
    <DayField
      label="Last day; empty: for good"
      name={`until ${name}`}
      quiet={quiet}
      value={row.valid_until ?? ''}
      onChange={(day) => onChange({ valid_until: day || null })}
    />
    <End day={row.valid_until ?? null} />
    <PaperFile name={name} id={row.file_id ?? null} onKept={(file_id) => onChange({ file_id })} />
    <Button rank="quiet" aria-label={`Remove ${name}`} onClick={onRemove}>
      ✕
    </Button>
  </div>
);

interface FileProps {
  name: string;
  id: number | null;
  onKept: (id: number) => void;
}

/** The paper itself, as a picture or a PDF: opened, or added. */
function PaperFile({ name, id, onKept }: FileProps) {
  const keep = useMutation({ mutationFn: keepAtDesk, onSuccess: onKept });
  const look = 'pb-1.5 text-sm underline';
  if (keep.isError)
    return (
      <span role="alert" className="text-xs text-bad">
        {sentenceOf(keep.error)}
      </span>
    );
  if (id !== null)
    return (
      <a
        className={look}
        href={urlOf('/api/v1/files/{file_id}', { file_id: id })}
        target="_blank"
        rel="noreferrer"
        aria-label={`File of ${name}`}
      >
        file
      </a>
    );
  return (
    <FileChoice className={look} onFile={(file) => keep.mutate(file)}>
      {keep.isPending ? 'keeping…' : 'add a file'}
      <span className="sr-only"> for {name}</span>
    </FileChoice>
  );
}

/** Whether it has run out, or soon will. */
function End({ day }: { day: string | null }) {
  const today = isoDay(serverNow());
  if (day !== null && day < today) return <span className="pb-1.5 text-sm text-bad">has run out</span>;
  if (day !== null && day <= addDays(today, WARN_DAYS))
    return <span className="pb-1.5 text-sm text-warn">runs out soon</span>;
  return <span />;
}
