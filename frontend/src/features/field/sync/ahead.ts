import type { SchemaFieldRowOut, SchemaFieldVisitOut, SchemaStep } from '@/api/types';
import type { Fate, Kept } from './deeds';
import { steppedBy, type EntryBodies } from './entries';
import { isOfReport, withDone, type Bodies } from './report';

export type OwnVisit = SchemaFieldVisitOut;
export type OwnRow = SchemaFieldRowOut;
type Event = OwnVisit['events'][number];
type Stand = OwnVisit['ahead'][number];

/** An event that the server has, or one that is still on the phone. */
export type ShownEvent = Pick<Event, 'step' | 'at' | 'by' | 'note'> & { fate: Fate | null };

/** A visit as it is for whoever stands there: what the server said, and what was done on this phone since. */
export interface Projected {
  visit: OwnVisit;
  events: ShownEvent[];
  /** What waits for somebody at the office to decide. */
  waiting: Kept[];
  /** What the office could not take in, and why: it stands here, so that it can be recorded in another way. */
  refused: Kept[];
}

const stepOf = ({ deed }: Kept) => deed.body as { step: SchemaStep; note: string };

/** Steps of a visit that were taken on this phone and are not in what the server said yet. */
function stepsSince(visitId: number, known: readonly string[], kept: readonly Kept[]): Kept[] {
  const there = new Set(known);
  return kept.filter(({ deed }) => deed.visitId === visitId && deed.kind === 'step' && !there.has(deed.id));
}

/** What of the report was recorded on this phone and is not in what the server said yet. */
function piecesSince(visit: OwnVisit, kept: readonly Kept[]): Kept[] {
  const there = new Set(visit.known);
  return kept.filter((row) => {
    const { deed } = row;
    return deed.visitId === visit.id && isOfReport(deed.kind) && !there.has(deed.id) && counts(row);
  });
}

const counts = ({ fate }: Kept) => fate === 'unsent' || fate === 'applied';

/** Where steps lead by what was sent ahead. What does not follow changes nothing. */
function walk(ahead: readonly Stand[], steps: readonly Kept[]): Stand | undefined {
  return steps.reduce((stand: Stand | undefined, kept) => {
    const to = stand?.actions.find(({ step }) => step === stepOf(kept).step)?.to;
    return to === undefined ? stand : ahead[to];
  }, ahead[0]);
}

/** Parts that were asked for here, and that the office has not heard of. */
function askedSince(pieces: readonly Kept[]): OwnVisit['asked'] {
  return pieces
    .filter(({ deed }) => deed.kind === 'part asked')
    .map(({ deed }) => {
      const { code, name, quantity, needed_by, must } = deed.body as EntryBodies['part asked'];
      return { code, part: name, quantity, needed_by, must, state: 'asked', answer: '' };
    });
}

/** To whom the report is sent as soon as there is a signal. */
function sentSince(pieces: readonly Kept[], by: string): OwnVisit['sent'] {
  return pieces
    .filter(({ deed }) => deed.kind === 'send report')
    .flatMap(({ deed }) =>
      (deed.body as Bodies['send report']).addresses.map((address) => ({
        address: address.trim(),
        at: Math.floor(deed.happenedAt / 1000),
        by,
        mailed: null,
      })),
    );
}

/** Who was there when, as far as steps that were taken here tell it. */
function stepped(report: OwnVisit['report'], taken: readonly Kept[], by: string): OwnVisit['report'] {
  const presences = taken.reduce(
    (rows, row) => steppedBy(rows, stepOf(row).step, { at: Math.floor(row.deed.happenedAt / 1000), by }),
    report.entries.presences,
  );
  return { ...report, entries: { ...report.entries, presences } };
}

/** A visit after what was done on this phone since the server was asked. Which step leads where was sent ahead. */
export function project(visit: OwnVisit, kept: readonly Kept[], by: string): Projected {
  const since = stepsSince(
    visit.id,
    visit.events.map(({ key }) => key),
    kept,
  );
  const taken = since.filter(counts);
  const stand = walk(visit.ahead, taken);
  const finished = taken.find((row) => stepOf(row).step === 'finish');
  const events: ShownEvent[] = [
    ...visit.events.map((event) => ({ ...event, fate: null })),
    ...since
      .filter((row) => counts(row) || row.fate === 'kept')
      .map((row) => ({ ...stepOf(row), by, at: Math.floor(row.deed.happenedAt / 1000), fate: row.fate })),
  ];
  const outcome = finished ? stepOf(finished).note : visit.outcome;
  const pieces = piecesSince(visit, kept);
  const report = stepped(withDone(visit.report, pieces, by), taken, by);
  const stood = stand ? { state: stand.state, actions: stand.actions, outcome } : {};
  return {
    visit: {
      ...visit,
      ...stood,
      report,
      asked: [...visit.asked, ...askedSince(pieces)],
      sent: [...sentSince(pieces, by), ...visit.sent],
    },
    events,
    waiting: kept.filter(({ deed, fate }) => deed.visitId === visit.id && fate === 'waiting'),
    refused: kept.filter(({ deed, fate }) => deed.visitId === visit.id && fate === 'refused'),
  };
}

/** The same for a visit of the day's list. */
export function projectRow(row: OwnRow, kept: readonly Kept[]): OwnRow {
  const stand = walk(row.ahead, stepsSince(row.id, row.known, kept).filter(counts));
  if (!stand || stand === row.ahead[0]) return row;
  return { ...row, state: stand.state, over: stand.state === 'done', movable: false };
}

/** Another visit that is under way, which has to be finished or put on hold before one sets out to this. */
export function underWay(rows: readonly OwnRow[], visitId: number, technicianId: number): OwnRow | undefined {
  return rows.find(
    (row) =>
      row.id !== visitId &&
      row.technician_id === technicianId &&
      (row.state === 'en_route' || row.state === 'on_site'),
  );
}

/** What has not left the phone. */
export const unsentIn = (kept: readonly Kept[]): Kept[] => kept.filter(({ fate }) => fate === 'unsent');

/** How much has not left the phone, in words; empty: nothing. */
export function unsentWords(kept: readonly Kept[], pictures = 0): string {
  const things = unsentIn(kept).length;
  const parts = [counted(things, 'thing'), counted(pictures, 'picture')].filter(Boolean);
  if (parts.length === 0) return '';
  return `${parts.join(' and ')} ${things + pictures === 1 ? 'is' : 'are'} still on this phone`;
}

const counted = (count: number, one: string) => count > 0 && (count === 1 ? `1 ${one}` : `${count} ${one}s`);
