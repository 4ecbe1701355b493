import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaCalendarEventOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { FileChoice } from '@/design/FileChoice';
import { Notice } from '@/design/Notice';
import { stamp } from '@/shared/time';

const KINDS = ['holiday', 'sickness', 'training', 'other'] as const;

/** Absences from a calendar file: read first, then noted as they were read. */
export function CalendarFile({ technicianId }: { technicianId: number }) {
  const client = useQueryClient();
  const [kind, setKind] = useState<(typeof KINDS)[number]>('holiday');
  const [file, setFile] = useState<File | null>(null);
  const bring = useMutation({
    mutationFn: ({ chosen, sure }: { chosen: File; sure: boolean }) => {
      const form = new FormData();
      form.append('file', chosen);
      form.append('kind', kind);
      form.append('sure', String(sure));
      return data(
        api.POST('/api/v1/technicians/{technician_id}/calendar', {
          params: { path: { technician_id: technicianId } },
          body: { file: '', kind, sure },
          bodySerializer: () => form,
        }),
      );
    },
    onSuccess: ({ sure, events }) => {
      if (!sure) return;
      const noted = events.filter(({ problem }) => !problem).length;
      toast.success(noted === 1 ? '1 absence is noted' : `${noted} absences are noted`);
      void client.invalidateQueries({ queryKey: ['schedule'] });
    },
  });
  const look = (chosen: File) => {
    setFile(chosen);
    bring.mutate({ chosen, sure: false });
  };
  const possible = bring.data?.events.filter(({ problem }) => !problem).length ?? 0;
  return (
    <section aria-label="Absences from a calendar" className="max-w-2xl space-y-2">
      <h2 className="font-semibold">Absences from a calendar</h2>
      <div className="flex items-end gap-3">
        <SelectField
          label="They are"
          value={kind}
          onChange={(event) => setKind(event.target.value as typeof kind)}
        >
          {KINDS.map((row) => (
            <option key={row}>{row}</option>
          ))}
        </SelectField>
        <FileChoice
          onFile={look}
          className="rounded-sm border border-hairline px-3 py-1.5 text-sm hover:bg-wash"
        >
          Choose a calendar file (.ics)
        </FileChoice>
        {file && bring.data && !bring.data.sure && possible > 0 && (
          <Button disabled={bring.isPending} onClick={() => bring.mutate({ chosen: file, sure: true })}>
            {possible === 1 ? 'Note 1 absence' : `Note ${possible} absences`}
          </Button>
        )}
      </div>
      {bring.isError && <Notice tone="bad">{sentenceOf(bring.error)}</Notice>}
      {bring.data && <Events events={bring.data.events} />}
    </section>
  );
}

const Events = ({ events }: { events: SchemaCalendarEventOut[] }) => (
  <ul aria-label="Events of the file" className="divide-y divide-hairline border-y border-hairline text-sm">
    {events.map(({ words, start, end, problem }, at) => (
      <li key={at} className="grid grid-cols-[16rem_12rem_1fr] gap-2 py-1">
        <span>{start != null && end != null && `${stamp(start)} to ${stamp(end)}`}</span>
        <span>{words}</span>
        <span className="text-bad">{problem}</span>
      </li>
    ))}
  </ul>
);
