import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaTechnicianRecordOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FileChoice } from '@/design/FileChoice';
import { Notice } from '@/design/Notice';
import { Portrait } from '@/features/people';
import { usePhoto } from '../queries';

/** The photo of a technician; without one a drawing, or the initials. */
export function PhotoField({ person }: { person: SchemaTechnicianRecordOut }) {
  const { put, remove } = usePhoto(person.id);
  // The browser shows the picture anew once it has fetched the new one.
  const [shown, setShown] = useState(0);
  const onSuccess = () => setShown(shown + 1);
  const error = put.error ?? remove.error;
  return (
    <div className="flex items-center gap-3">
      <Portrait key={shown} technicianId={person.id} size={64} />
      <FileChoice
        onFile={(file) => put.mutate(file, { onSuccess })}
        className="rounded-sm border border-hairline px-3 py-1.5 text-sm hover:bg-wash"
      >
        {person.has_photo ? 'Another photo' : 'Choose a photo'}
      </FileChoice>
      {person.has_photo && (
        <Button
          rank="quiet"
          disabled={remove.isPending}
          onClick={() => remove.mutate(undefined, { onSuccess })}
        >
          Remove the photo
        </Button>
      )}
      {error && <Notice tone="bad">{sentenceOf(error)}</Notice>}
    </div>
  );
}
