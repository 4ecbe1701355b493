import { useMutation } from '@tanstack/react-query';
import { v7 } from 'uuid';
import { useSession } from '@/features/people';
import type { Bodies, ReportKind } from '../sync/report';
import { phoneOf } from '../usePhone';
import { smaller } from './smaller';

export type Recorded = { [K in ReportKind]: { kind: K; body: Bodies[K] } }[ReportKind];

/** Writes a piece of the report down on this phone. It is done when it is written; it is sent later. */
export function useRecord(visitId: number) {
  const account = useSession().account!.id;
  return useMutation({
    networkMode: 'always',
    mutationFn: async ({ kind, body }: Recorded) => {
      const phone = await phoneOf(account);
      return phone.journal.write({ kind, visitId, body, basedOn: null, where: null });
    },
  });
}

interface Details {
  kind?: 'photo' | 'signature';
  caption?: string;
  pair?: '' | 'before' | 'after';
  question?: string;
  /** The photo that this one was drawn on. */
  original?: string;
}
/** A photo as the camera gave it, or something drawn (a picture in a data address). */
export type TakenPicture = Details & ({ file: File } | { drawn: string });

/** Keeps pictures on this phone, photos made smaller, and writes down that they were taken. Gives their names. */
export function useTakePictures(visitId: number) {
  const account = useSession().account!.id;
  return useMutation({
    networkMode: 'always',
    mutationFn: async (taken: TakenPicture[]) => {
      const phone = await phoneOf(account);
      const names: string[] = [];
      for (const each of taken) {
        const { kind = 'photo', caption = '', pair = '', question = '', original = null } = each;
        const { content, media_type } = 'drawn' in each ? bytesOf(each.drawn) : await smaller(each.file);
        const id = v7();
        const size = content.byteLength;
        // The picture first: what is told of it must never be of something that is not here.
        await phone.keepPicture(id, content);
        const body = { id, kind, size, media_type, caption, pair, question, original };
        await phone.journal
          .write({ kind: 'picture', visitId, body, basedOn: null, where: null })
          .catch(async (error: unknown) => {
            await phone.pictures.drop(id);
            throw error;
          });
        names.push(id);
      }
      return names;
    },
  });
}

function bytesOf(address: string) {
  const [head, code] = address.split(',') as [string, string];
  const content = Uint8Array.from(atob(code), (letter) => letter.charCodeAt(0));
  return { content, media_type: /^data:([^;]+)/.exec(head)![1]! };
}
