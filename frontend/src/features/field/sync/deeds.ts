/** What is done in the field, as the phone keeps it. Plain values: neither the store nor the network is known here. */

export interface Where {
  lon: number;
  lat: number;
  accuracyMetres: number | null;
}

/** A visit as it was seen when something was done to it. */
export interface Base {
  state: string;
  /** When it was to begin, in seconds. */
  start: number | null;
}

/** What somebody does, before it is written down. */
export interface Draft {
  kind: string;
  /** The visit it belongs to; null: the day. */
  visitId: number | null;
  body: unknown;
  basedOn: Base | null;
  where: Where | null;
}

/**
 * Something that was done. Never changed once it is written: what becomes of it is kept beside it.
 *
 * Deeds of one lane (a visit, or the day) reach the server in the order of their numbers; `previous` names the one
 * before it in its lane, so that the server can tell that none is missing.
 */
export interface Deed extends Draft {
  /** Made on the phone, rising with time (UUIDv7). The server keeps it: sent again, it does nothing. */
  id: string;
  /** Rising on this phone, without gaps. */
  number: number;
  lane: string;
  previous: string | null;
  /** Milliseconds by the phone's own clock. */
  deviceAt: number;
  /** Milliseconds by the server's clock, as far as the phone knows it. */
  happenedAt: number;
}

/**
 * What the server said of a deed. `applied`: it is so. `refused`: it could never be, and the sentence says why.
 * `waiting`: it is kept, and a person decides. `kept`: decided; it stands beside the visit without an effect. `again`:
 * not now; everything after it in its lane waits too.
 */
export type Outcome = 'applied' | 'refused' | 'waiting' | 'kept' | 'again';

export interface Answer {
  id: string;
  outcome: Outcome;
  sentence: string;
  /** For `again`: an earlier deed that the server does not have (any more), and needs first. */
  missing?: string | null;
}

/** What has become of a deed: still on the phone, or what the server said last. */
export type Fate = 'unsent' | Exclude<Outcome, 'again'>;

export interface Kept {
  deed: Deed;
  fate: Fate;
  sentence: string;
}

export const laneOf = (visitId: number | null) => (visitId === null ? 'day' : `visit ${visitId}`);
