// What a day came to, as the office computes it (core/daylogs). Both are held to the same answers by
// tests/core/daylogs/days.json: without a signal the phone must say what the office would.

export interface Stretch {
  since: number;
  until: number | null;
}

export interface VisitOfDay {
  label: string;
  departed: number | null;
  arrived: number | null;
  finished: number | null;
  over: boolean;
}

export interface DayFacts {
  began: number | null;
  ended: number | null;
  pauses: readonly Stretch[];
  odometer_began: number | null;
  odometer_ended: number | null;
  drives: boolean;
  checks_open: number;
  fuel_without_receipt: number;
  visits: readonly VisitOfDay[];
}

/** Seconds and kilometres; null: it cannot be said (yet). */
export interface DaySummary {
  hours: number | null;
  pauses: number;
  driving: number;
  at_visits: number;
  kilometres: number | null;
  open: string[];
}

export interface OddEntry {
  key: string;
  words: string;
}

const HOUR = 3600;
const between = (since: number | null, until: number | null) =>
  since === null || until === null ? 0 : Math.max(0, until - since);
const sum = (numbers: number[]) => numbers.reduce((total, each) => total + each, 0);

export function summaryOf(facts: DayFacts): DaySummary {
  const { began, ended, visits, odometer_began: first, odometer_ended: last } = facts;
  const pauses = sum(facts.pauses.map(({ since, until }) => (until === null ? 0 : until - since)));
  return {
    hours: began === null || ended === null ? null : Math.max(0, ended - began - pauses),
    pauses,
    driving: sum(visits.map(({ departed, arrived }) => between(departed, arrived))),
    at_visits: sum(visits.map(({ arrived, finished }) => between(arrived, finished))),
    kilometres: first === null || last === null ? null : Math.max(0, last - first),
    open: visits.filter(({ over }) => !over).map(({ label }) => label),
  };
}

/** What has to be asked about the day, in the order of the day. Nothing of a day on which nobody did anything. */
export function oddEntries(facts: DayFacts): OddEntry[] {
  if (facts.began === null && !facts.visits.some(({ arrived }) => arrived !== null)) return [];
  return [...oddTimes(facts), ...oddVehicle(facts)]
    .filter(([odd]) => odd)
    .map(([, key, words]) => ({ key, words }));
}

type Asked = [odd: boolean, key: string, words: string];

function oddTimes(facts: DayFacts): Asked[] {
  const { hours } = summaryOf(facts);
  const goesOn = facts.pauses.some(({ until }) => until === null);
  const long = facts.pauses.some(({ since, until }) => until !== null && until - since > 3 * HOUR);
  return [
    [facts.began === null, 'no beginning', 'When did the day begin? It was not written down.'],
    [facts.ended === null, 'no end', 'When did the day end? It was not written down.'],
    [goesOn, 'pause goes on', 'When did the last break end?'],
    [!goesOn && long, 'long pause', 'A break of more than 3 hours: is that right?'],
    [hours !== null && hours > 14 * HOUR, 'long day', 'More than 14 hours of work: is that right?'],
    [
      hours !== null && hours > 6 * HOUR && facts.pauses.length === 0,
      'no pause',
      'More than 6 hours without a break: is that right?',
    ],
  ];
}

function oddVehicle(facts: DayFacts): Asked[] {
  if (!facts.drives) return [];
  const { odometer_began: first, odometer_ended: last } = facts;
  const driven = first === null || last === null ? 0 : last - first;
  return [
    [first === null, 'no odometer', 'What did the odometer say in the morning?'],
    [last === null, 'no odometer at the end', 'What does the odometer say now?'],
    [
      driven < 0 || driven > 800,
      'odd kilometres',
      'The odometer does not fit a day’s driving: is that right?',
    ],
    [facts.checks_open > 0, 'no checks', 'The vehicle was not checked: why?'],
    [facts.fuel_without_receipt > 0, 'no receipt', 'Fuel without a photo of the receipt: where is it?'],
  ];
}
