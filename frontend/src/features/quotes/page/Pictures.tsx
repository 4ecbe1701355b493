import { useQueries } from '@tanstack/react-query';
import { api, data, urlOf } from '@/api/client';

interface Props {
  quoteId: number;
  /** Orders of its surveys: what was seen there can be shown too. */
  surveyed: number[];
  chosen: number[];
  onChange: (pictures: number[]) => void;
}

/** Which files the customer gets: of the quote's own, and of those that were made at its surveys. */
export function Pictures({ quoteId, surveyed, chosen, onChange }: Props) {
  const records: [string, number][] = [
    ['quote', quoteId],
    ...surveyed.map((id): [string, number] => ['order', id]),
  ];
  const files = useQueries({
    queries: records.map(([record, id]) => ({
      queryKey: ['files', record, id],
      queryFn: () =>
        data(api.GET('/api/v1/files/{record}/{record_id}', { params: { path: { record, record_id: id } } })),
    })),
  });
  const rows = files.flatMap((found) => found.data ?? []);
  if (rows.length === 0)
    return (
      <p className="text-ink-soft">Files of the quote, and pictures made at its surveys, can go with it.</p>
    );
  return (
    <fieldset>
      <legend className="text-xs font-semibold text-ink-soft">Files the customer gets</legend>
      <div className="flex flex-wrap gap-2">
        {rows.map((file) => (
          <label key={file.id} className="block w-24 text-xs">
            {file.media_type.startsWith('image/') ? (
              <img
                src={urlOf('/api/v1/files/{file_id}', { file_id: file.id })}
                alt=""
                className="h-16 w-24 object-cover"
              />
            ) : (
              <span aria-hidden className="flex h-16 w-24 items-center justify-center bg-wash">
                {file.name.split('.').pop()?.toUpperCase()}
              </span>
            )}
            <input
              type="checkbox"
              checked={chosen.includes(file.id)}
              onChange={(event) =>
                onChange(
                  event.target.checked ? [...chosen, file.id] : chosen.filter((key) => key !== file.id),
                )
              }
            />{' '}
            {file.name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
