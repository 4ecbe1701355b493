import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { forgetWho, sessionQuery, useSession } from '@/features/people';
import { deviceNow } from '@/shared/clock';
import { onChange, onConnection } from '@/shared/live';
import { fieldKey, keptKey, picturesKey } from './queries';
import { fieldServer } from './server';
import type { Kept } from './sync/deeds';
import { FieldPhone } from './sync/phone';
import type { PictureState } from './sync/pictures';
import { FieldDatabase } from './sync/store';
import { keepFresh } from './takenAlong';

const phones = new Map<number, Promise<FieldPhone>>();

/** Opened once for each person, whichever pages are looked at. */
export function phoneOf(accountId: number): Promise<FieldPhone> {
  const known = phones.get(accountId);
  if (known) return known;
  const clocks = { wall: deviceNow, running: () => performance.now() };
  const opened = FieldPhone.open(new FieldDatabase(accountId), fieldServer, clocks);
  phones.set(accountId, opened);
  opened.catch(() => phones.delete(accountId));
  return opened;
}

/** This phone's own store, opened; the frame of the phone's pages keeps it going. */
export function usePhone() {
  const account = useSession().account!.id;
  return useQuery({
    queryKey: ['phone', account],
    queryFn: () => phoneOf(account),
    staleTime: Infinity,
    networkMode: 'always',
    retry: false,
  });
}

/** Keeps sending, keeps what was taken along fresh, and asks what was decided, while a page of the phone is open. */
export function useKeepGoing() {
  const { account, kept } = useSession();
  const client = useQueryClient();
  const opened = usePhone();
  const phone = opened.data;
  const id = account!.id;
  useEffect(() => (phone ? keepFresh(phone, client, () => leave(id)) : undefined), [phone, client, id]);
  useEffect(
    () =>
      phone?.keepSending(listen, (round) => {
        if (round === 'went on') void client.invalidateQueries({ queryKey: fieldKey });
        if (phone.closed) leave(id);
        // Whoever was away for long is signed out: what is recorded waits, and is sent after the next sign-in.
        else if (round === 'signed out' && kept !== 'ended')
          void client.invalidateQueries({ queryKey: sessionQuery.queryKey });
      }),
    [phone, client, id, kept],
  );
  useEffect(() => {
    if (!phone) return;
    const ask = () => void phone.ask().catch(() => undefined);
    ask();
    return onChange(({ topic }) => topic === 'visit' && ask());
  }, [phone]);
  useEffect(() => {
    // Opened without a signal: as soon as there is one, it is asked who this is.
    if (!kept) return;
    return onConnection((state) => {
      if (state === 'live') void client.invalidateQueries({ queryKey: sessionQuery.queryKey });
    });
  }, [kept, client]);
  return opened;
}

/** The office has signed this phone out: nobody is known here any more, and what lies here is closed. */
function leave(accountId: number) {
  phones.delete(accountId);
  forgetWho();
  window.location.assign('/sign-in');
}

/** What makes it worth trying at once: there is a signal again, or somebody looks at the phone. */
function listen(wake: () => void) {
  window.addEventListener('online', wake);
  document.addEventListener('visibilitychange', wake);
  return () => {
    window.removeEventListener('online', wake);
    document.removeEventListener('visibilitychange', wake);
  };
}

interface Told {
  subscribe(hear: () => void): () => void;
}

/** Reads once more what was written to meanwhile: a first reading that is under way is not begun anew by being told. */
async function readWhole<T>(told: readonly Told[], read: () => Promise<T>): Promise<T> {
  for (;;) {
    let old = false;
    const stops = told.map((each) => each.subscribe(() => (old = true)));
    try {
      const found = await read();
      if (!old) return found;
    } finally {
      stops.forEach((stop) => stop());
    }
  }
}

const NO_PICTURES: PictureState[] = [];

/** Pictures that have not arrived at the office. */
export function useWaitingPictures(phone: FieldPhone | undefined): PictureState[] {
  const client = useQueryClient();
  useEffect(() => {
    if (!phone) return;
    const again = () => void client.invalidateQueries({ queryKey: picturesKey });
    const unhear = [phone.pictures.subscribe(again), phone.journal.subscribe(again)];
    return () => unhear.forEach((stop) => stop());
  }, [phone, client]);
  const waiting = useQuery({
    queryKey: picturesKey,
    queryFn: () => readWhole([phone!.pictures, phone!.journal], () => phone!.pictures.waiting()),
    enabled: phone !== undefined,
    networkMode: 'always',
  });
  return waiting.data ?? NO_PICTURES;
}

const NOTHING: Kept[] = [];

/** What was recorded on this phone, and what has become of it. */
export function useKept(phone: FieldPhone | undefined): Kept[] {
  const client = useQueryClient();
  useEffect(
    () => phone?.journal.subscribe(() => void client.invalidateQueries({ queryKey: keptKey })),
    [phone, client],
  );
  const kept = useQuery({
    queryKey: keptKey,
    queryFn: () => readWhole([phone!.journal], () => phone!.journal.all()),
    enabled: phone !== undefined,
    networkMode: 'always',
  });
  return kept.data ?? NOTHING;
}
