import { PenLine } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import type { OwnVisit } from '../sync/ahead';
import { inWords } from '../trouble';
import { shownPhotos, type Shown } from '../sync/report';
import { useDraft } from './draft';
import { Draw } from './drawing/Draw';
import { Picture, usePictureSource } from './Picture';
import { useRecord, useTakePictures } from './record';
import { TakePhotos } from './TakePhotos';
import { THUMB } from './thumb';

const PAIRS = [
  ['before', 'Before'],
  ['after', 'After'],
] as const;

/** All photos of the visit, but for those that answer a question. */
export function Photos({ visit }: { visit: OwnVisit }) {
  const photos = shownPhotos(visit.report.pictures);
  return (
    <div className="space-y-4 p-4">
      <TakePhotos visitId={visit.id} several />
      <ul className="space-y-6">
        {photos.map((photo, index) => (
          <Photo key={photo.id} visitId={visit.id} photo={photo} number={index + 1} />
        ))}
      </ul>
    </div>
  );
}

function Photo({ visitId, photo, number }: { visitId: number; photo: Shown; number: number }) {
  const record = useRecord(visitId);
  const draft = useDraft(`${visitId} caption ${photo.id}`, photo.caption);
  const words = photo.caption || `Photo ${number}`;
  const change = (more: { caption?: string; pair?: '' | 'before' | 'after' }) =>
    record.mutate(
      {
        kind: 'picture',
        body: {
          id: photo.id,
          kind: 'photo',
          size: photo.size,
          media_type: 'image/jpeg',
          caption: draft.text.trim(),
          pair: photo.pair as '' | 'before' | 'after',
          ...more,
        },
      },
      { onSuccess: draft.done },
    );
  return (
    <li className="space-y-2">
      <Picture
        id={photo.id}
        here={photo.here}
        words={words}
        className="h-56 w-full bg-wash object-contain!"
      />
      <DrawOn visitId={visitId} photo={photo} />
      <TextField
        label={`What photo ${number} shows`}
        maxLength={300}
        value={draft.text}
        className={THUMB}
        onChange={(event) => draft.type(event.target.value)}
        onBlur={() => (draft.text.trim() === photo.caption ? void draft.done() : change({}))}
      />
      <div className="flex gap-2">
        {PAIRS.map(([pair, label]) => (
          <Button
            key={pair}
            size="thumb"
            className="flex-1"
            aria-pressed={photo.pair === pair}
            onClick={() => change({ pair: photo.pair === pair ? '' : pair })}
          >
            {label}
          </Button>
        ))}
        <Button
          size="thumb"
          rank="quiet"
          onClick={() => record.mutate({ kind: 'picture out', body: { id: photo.id } })}
        >
          Leave out
        </Button>
      </div>
    </li>
  );
}

/** Draw on a photo: the drawing is a picture of its own, shown instead; left out, the photo is there again. */
function DrawOn({ visitId, photo }: { visitId: number; photo: Shown }) {
  const [open, setOpen] = useState(false);
  const src = usePictureSource(photo.id, photo.here);
  const take = useTakePictures(visitId);
  if (!src) return null;
  const { caption, pair } = photo;
  const keep = (drawn: string) =>
    take.mutate([{ drawn, caption, pair: pair as '' | 'before' | 'after', original: photo.id }], {
      onSuccess: () => setOpen(false),
    });
  return (
    <>
      <Button size="thumb" className="w-full" icon={<PenLine size={20} />} onClick={() => setOpen(true)}>
        Draw on it
      </Button>
      {take.isError && <Notice tone="bad">{inWords(take.error)}</Notice>}
      {open && <Draw src={src} onDone={keep} onLeave={() => setOpen(false)} />}
    </>
  );
}
