import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Paperclip } from 'lucide-react';
import { api, data, sentenceOf, urlOf } from '@/api/client';
import { stamp } from '@/shared/time';
import { FileChoice } from './FileChoice';
import { Notice } from './Notice';

/** Keep a file with a record; its number. */
export async function keepFile(record: string, id: number, file: File): Promise<number> {
  const form = new FormData();
  form.append('file', file);
  const kept = await data(
    api.POST('/api/v1/files/{record}/{record_id}', {
      params: { path: { record, record_id: id } },
      body: { file: '' },
      bodySerializer: () => form,
    }),
  );
  return kept.id;
}

/** Keep a file for a record that is still being made; its number. */
export async function keepAtDesk(file: File): Promise<number> {
  const form = new FormData();
  form.append('file', file);
  const kept = await data(api.POST('/api/v1/files/desk', { body: { file: '' }, bodySerializer: () => form }));
  return kept.id;
}

/** Files of a record; pictures are shown small. */
export function FileList({ record, id, canAdd }: { record: string; id: number; canAdd: boolean }) {
  const client = useQueryClient();
  const key = ['files', record, id];
  const path = { record, record_id: id };
  const files = useQuery({
    queryKey: key,
    queryFn: () => data(api.GET('/api/v1/files/{record}/{record_id}', { params: { path } })),
  });
  const add = useMutation({
    mutationFn: (file: File) => keepFile(record, id, file),
    onSettled: () => client.invalidateQueries({ queryKey: key }),
  });
  const rows = files.data ?? [];
  if (rows.length === 0 && !canAdd) return null;
  return (
    <section aria-label="Files">
      <h3 className="flex items-center gap-2 text-xs font-semibold text-ink-soft">
        Files
        {canAdd && (
          <FileChoice className="font-normal underline" onFile={(file) => add.mutate(file)}>
            add one
          </FileChoice>
        )}
      </h3>
      {add.isError && <Notice tone="bad">{sentenceOf(add.error)}</Notice>}
      <ul className="flex flex-wrap gap-2 pt-1 text-sm">
        {rows.map((row) => (
          <li key={row.id}>
            <a
              href={urlOf('/api/v1/files/{file_id}', { file_id: row.id })}
              target="_blank"
              rel="noreferrer"
              title={`${row.by}, ${stamp(row.at)}`}
              className="flex items-center gap-1 rounded-sm border border-hairline px-1.5 py-0.5 hover:bg-wash"
            >
              {row.media_type.startsWith('image/') ? (
                <img
                  src={urlOf('/api/v1/files/{file_id}', { file_id: row.id })}
                  alt=""
                  className="h-8 w-8 object-cover"
                />
              ) : (
                <Paperclip size={14} aria-hidden />
              )}
              {row.name}
            </a>
          </li>
        ))}
      </ul>
    </section>
  );
}
