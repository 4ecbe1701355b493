import { CloudOff } from 'lucide-react';
import { unsentWords } from './sync/ahead';
import type { Kept } from './sync/deeds';
import { usePhone, useWaitingPictures } from './usePhone';

/** What is still on the phone: always to be seen where there is anything. */
export function Unsent({ kept }: { kept: Kept[] }) {
  // What the office will never take is not on its way: it stands on the page of this phone.
  const pictures = useWaitingPictures(usePhone().data).filter(({ refused }) => !refused);
  const words = unsentWords(kept, pictures.length);
  if (!words) return null;
  return (
    <p role="status" className="flex items-center gap-2 border-t border-hairline bg-wash px-3 py-2 text-sm">
      <CloudOff size={16} aria-hidden /> {words}: sent when there is a signal.
    </p>
  );
}
