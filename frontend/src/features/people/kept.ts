import { serverAhead, setServerAhead } from '@/shared/clock';
import type { Session } from './session';

const KEY = 'iron-relay.who';

interface Kept {
  session: Session;
  /** Seconds that the server's clock is ahead of this device's. */
  ahead: number;
}

/** Keeps who works in the field on this device, so that its pages open without a signal. Nobody else is kept. */
export function keepWho(session: Session): Session {
  if (!session.account || session.helper) return session;
  const kept: Kept = { session, ahead: serverAhead() };
  if (session.may.includes('work_in_field')) localStorage.setItem(KEY, JSON.stringify(kept));
  else forgetWho();
  return session;
}

/** Who signed in on this phone last, if anybody. Learns how far its clock is off on the way. */
export function keptWho(): Session | null {
  const known = localStorage.getItem(KEY);
  if (!known) return null;
  const { session, ahead } = JSON.parse(known) as Kept;
  setServerAhead(ahead);
  return session;
}

export const forgetWho = () => localStorage.removeItem(KEY);
