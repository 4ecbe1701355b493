import { useQuery } from '@tanstack/react-query';
import { api, data, urlOf } from '@/api/client';

interface Props {
  quoteId: number;
  chosen: number[];
  onChange: (pictures: number[]) => void;
}

/** Which pictures of the quote's files the customer sees. */
export function Pictures({ quoteId, chosen, onChange }: Props) {
  const files = useQuery({
    queryKey: ['files', 'quote', quoteId],
    queryFn: () =>
      data(
        api.GET('/api/v1/files/{record}/{record_id}', {
          params: { path: { record: 'quote', record_id: quoteId } },
        }),
      ),
  });
  const pictures = (files.data ?? []).filter((file) => file.media_type.startsWith('image/'));
  if (pictures.length === 0)
    return (
      <p className="text-ink-soft">Pictures that are added to the files of the quote can be shown with it.</p>
    );
  return (
    <fieldset>
      <legend className="text-xs font-semibold text-ink-soft">Pictures the customer sees</legend>
      <div className="flex flex-wrap gap-2">
        {pictures.map((file) => (
          <label key={file.id} className="block w-24 text-xs">
            <img
              src={urlOf('/api/v1/files/{file_id}', { file_id: file.id })}
              alt=""
              className="h-16 w-24 object-cover"
            />
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
