import { useState } from 'react';
import { toast } from 'sonner';
import { urlOf } from '@/api/client';
import type { SchemaPartRecordOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FileChoice } from '@/design/FileChoice';
import { keepFile } from '@/design/FileList';
import { useSetPhoto } from '@/features/stock';
import { complain } from '@/shared/complain';

/** Its picture, so that the right one is taken off the shelf. */
export function PartPhoto({ part, canMove }: { part: SchemaPartRecordOut; canMove: boolean }) {
  const setPhoto = useSetPhoto(part);
  const [busy, setBusy] = useState(false);
  const onFile = (file: File) => {
    setBusy(true);
    keepFile('part', part.id, file)
      .then((id) => setPhoto.mutateAsync(id))
      .then(() => toast.success(`${part.name} has a picture`))
      .catch(complain)
      .finally(() => setBusy(false));
  };
  if (!part.photo_id && !canMove) return null;
  return (
    <figure className="flex items-end gap-3 text-sm">
      {part.photo_id && (
        <img
          src={urlOf('/api/v1/files/{file_id}', { file_id: part.photo_id })}
          alt={part.name}
          className="max-h-40 rounded-sm border border-hairline"
        />
      )}
      {canMove && (
        <figcaption className="flex gap-2">
          <FileChoice className="underline" onFile={onFile}>
            {busy ? 'Sending…' : part.photo_id ? 'Another picture' : 'Add a picture'}
          </FileChoice>
          {part.photo_id && (
            <Button rank="quiet" onClick={() => setPhoto.mutate(null, { onError: complain })}>
              Remove
            </Button>
          )}
        </figcaption>
      )}
    </figure>
  );
}
