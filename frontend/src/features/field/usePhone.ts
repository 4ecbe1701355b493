import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { sessionQuery, useSession } from '@/features/people';
import { deviceNow } from '@/shared/clock';
import { onChange } from '@/shared/live';
import { fieldKey, keptKey } from './queries';
import { fieldServer } from './server';
import type { Kept } from './sync/deeds';
import { FieldPhone } from './sync/phone';
import { FieldDatabase } from './sync/store';

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

/** This phone's own store, and what keeps sending from it while a page of the phone is open. */
export function usePhone() {
  const account = useSession().account!.id;
  const client = useQueryClient();
  const opened = useQuery({
    queryKey: ['phone', account],
    queryFn: () => phoneOf(account),
    staleTime: Infinity,
    networkMode: 'always',
  });
  const phone = opened.data;
  useEffect(
    () =>
      phone?.keepSending(listen, (round) => {
        if (round === 'went on') void client.invalidateQueries({ queryKey: fieldKey });
        // Whoever was away for long is signed out: what is recorded waits, and is sent after the next sign-in.
        if (round === 'signed out') void client.invalidateQueries({ queryKey: sessionQuery.queryKey });
      }),
    [phone, client],
  );
  useEffect(() => {
    if (!phone) return;
    const ask = () => void phone.ask();
    ask();
    return onChange(({ topic }) => topic === 'visit' && ask());
  }, [phone]);
  return opened;
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
    queryFn: () => phone!.journal.all(),
    enabled: phone !== undefined,
    networkMode: 'always',
  });
  return kept.data ?? NOTHING;
}
