import { Camera, Images } from 'lucide-react';
import type { ChangeEvent, ReactNode } from 'react';
import { Notice } from '@/design/Notice';
import { inWords } from '../trouble';
import { useTakePictures } from './record';

interface Props {
  visitId: number;
  several?: boolean;
  about?: { caption?: string; question?: string };
  onTaken?: (names: string[]) => void;
}

/** Take a photo with the camera, or choose some that are there already. */
export function TakePhotos({ visitId, several = false, about = {}, onTaken }: Props) {
  const take = useTakePictures(visitId);
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    const files = [...(event.target.files ?? [])];
    event.target.value = '';
    if (files.length > 0)
      take.mutate(
        files.map((file) => ({ file, ...about })),
        { onSuccess: onTaken },
      );
  };
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <Source words="Take a photo" icon={<Camera size={22} aria-hidden />}>
          <input type="file" accept="image/*" capture="environment" className="sr-only" onChange={chosen} />
        </Source>
        <Source words={several ? 'Choose photos' : 'Choose one'} icon={<Images size={22} aria-hidden />}>
          <input type="file" accept="image/*" multiple={several} className="sr-only" onChange={chosen} />
        </Source>
      </div>
      {take.isPending && <p role="status">Keeping what was taken…</p>}
      {take.isError && <Notice tone="bad">{inWords(take.error)}</Notice>}
    </>
  );
}

const Source = ({ words, icon, children }: { words: string; icon: ReactNode; children: ReactNode }) => (
  <label className="flex min-h-14 cursor-pointer items-center justify-center gap-2 rounded-sm border-2 border-hairline bg-sheet text-lg focus-within:outline-2 focus-within:outline-copper">
    {icon} {words}
    {children}
  </label>
);
