import { useMutation } from '@tanstack/react-query';
import { v7 } from 'uuid';
import { useSession } from '@/features/people';
import type { DayBodies, DayKind } from '../sync/daylog';
import { phoneOf } from '../usePhone';
import { smaller } from '../work/smaller';

type Recorded = { [K in DayKind]: { kind: K; body: Omit<DayBodies[K], 'day'> } }[DayKind];

/** Writes something of the day down on this phone; where the phone is goes with the beginning and the end. */
export function useRecordDay(day: string) {
  const account = useSession().account!.id;
  return useMutation({
    networkMode: 'always',
    mutationFn: async ({ kind, body }: Recorded) => {
      const phone = await phoneOf(account);
      return phone.journal.write({ kind, visitId: null, body: { day, ...body }, basedOn: null, where: null });
    },
  });
}

export interface Filled {
  millilitres: number;
  amount: number;
  receipt: File | null;
}

/** The same of fuel: the photo of the receipt is kept first, then it is told of. */
export function useFill(day: string) {
  const account = useSession().account!.id;
  return useMutation({
    networkMode: 'always',
    mutationFn: async ({ millilitres, amount, receipt }: Filled) => {
      const phone = await phoneOf(account);
      const id = v7();
      const content = receipt ? (await smaller(receipt)).content : null;
      if (content) await phone.keepPicture(id, content);
      const body = { day, id, millilitres, amount, size: content?.byteLength ?? 0 };
      await phone.journal
        .write({ kind: 'fuel', visitId: null, body, basedOn: null, where: null })
        .catch(async (error: unknown) => {
          if (content) await phone.pictures.drop(id);
          throw error;
        });
    },
  });
}
