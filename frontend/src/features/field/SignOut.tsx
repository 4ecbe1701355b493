import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useSignOut } from '@/features/accounts';
import { unsentIn, unsentWords } from './sync/ahead';
import type { Kept } from './sync/deeds';
import type { FieldPhone } from './sync/phone';
import { usePhone, useWaitingPictures } from './usePhone';

/** The way out. While something is only on this phone, it says so instead, and lets it be saved to a file. */
export function SignOut({ kept }: { kept: Kept[] }) {
  const signOut = useSignOut();
  const phone = usePhone().data;
  const [pressed, setPressed] = useState(false);
  // What the office will never take stays on this phone, sealed, whoever signs out: it stands in nobody's way.
  const pictures = useWaitingPictures(phone).filter(({ refused }) => !refused);
  const words = unsentWords(kept, pictures.length);
  return (
    <>
      <Button rank="quiet" className="min-h-14" onClick={() => (words ? setPressed(true) : signOut.mutate())}>
        Sign out
      </Button>
      {signOut.isError && (
        <div className="basis-full">
          <Notice tone="bad">Signing out needs a signal.</Notice>
        </div>
      )}
      {pressed && words && phone && (
        <div className="basis-full">
          <Notice tone="warn">
            <p>
              {words}, and only there. Sign out when everything is sent; until then this is the only copy.
            </p>
            <SaveCopy phone={phone} kept={kept} pictures={pictures.map(({ id }) => id)} />
          </Notice>
        </div>
      )}
    </>
  );
}

interface SaveCopyProps {
  phone: FieldPhone;
  kept: Kept[];
  pictures: string[];
}

/** A file of what was not sent, with the pictures, as somebody at the office can read it. */
function SaveCopy({ phone, kept, pictures }: SaveCopyProps) {
  const save = useMutation({
    networkMode: 'always',
    mutationFn: async () => {
      const link = document.createElement('a');
      link.href = URL.createObjectURL(new Blob([await fileOf(phone, kept, pictures)]));
      link.download = 'not-sent.json';
      link.click();
      URL.revokeObjectURL(link.href);
    },
  });
  return (
    <button type="button" className="min-h-14 underline" onClick={() => save.mutate()}>
      Save a copy to a file
    </button>
  );
}

/** JSON: `deeds` with when they were done, `pictures` by their names, base64. */
export async function fileOf(phone: FieldPhone, kept: Kept[], pictures: string[]): Promise<string> {
  const contents = await Promise.all(
    pictures.map(async (id) => [id, base64(await phone.pictures.content(id))] as const),
  );
  const deeds = unsentIn(kept).map(({ deed }) => ({
    ...deed,
    done: new Date(deed.happenedAt).toISOString(),
  }));
  return JSON.stringify({ deeds, pictures: Object.fromEntries(contents) }, null, 2);
}

const base64 = (content: Uint8Array | null) =>
  content && btoa(Array.from(content, (byte) => String.fromCharCode(byte)).join(''));
