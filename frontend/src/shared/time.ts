// Times are epoch seconds; they are shown in the company's time zone, which the application learns once at its start.

import { serverNow } from './clock';

type Format = 'time' | 'day' | 'iso' | 'stamp' | 'wall';

/** As the company has chosen: "2:05 pm" for "14:05", "Mon Nov 23" for "Mon 23 Nov". */
export interface Style {
  twelve_hours: boolean;
  month_first: boolean;
  week_begins: string;
}

let zone = 'UTC';
let style: Style = { twelve_hours: false, month_first: false, week_begins: 'Monday' };
const formats = new Map<Format, Intl.DateTimeFormat>();

export function setTimeZone(name: string) {
  zone = name;
  formats.clear();
}

export function setStyle(chosen: Style) {
  style = chosen;
  formats.clear();
}

/** The weekday with which weeks begin; 0 is Monday. */
export const firstWeekday = () => FULL.indexOf(style.week_begins.toLowerCase());

function shapeOf(which: Format): [locale: string, options: Intl.DateTimeFormatOptions] {
  const words = style.month_first ? 'en-US' : 'en-GB';
  const clock: Intl.DateTimeFormatOptions = style.twelve_hours
    ? { hour: 'numeric', minute: '2-digit', hourCycle: 'h12' }
    : { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' };
  if (which === 'time') return ['en-GB', clock];
  if (which === 'day') return [words, { weekday: 'short', day: 'numeric', month: 'short' }];
  if (which === 'stamp') return [words, { day: 'numeric', month: 'short', ...clock }];
  // For counting, whatever is shown.
  if (which === 'wall') return ['en-GB', { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }];
  return ['en-CA', { year: 'numeric', month: '2-digit', day: '2-digit' }];
}

/** Made when first needed: making one takes ten milliseconds and more of an application's start. */
function format(which: Format): Intl.DateTimeFormat {
  let made = formats.get(which);
  if (!made) {
    const [locale, options] = shapeOf(which);
    made = new Intl.DateTimeFormat(locale, { timeZone: zone, ...options });
    formats.set(which, made);
  }
  return made;
}

const date = (moment: number) => new Date(moment * 1000);
/** As the server says it: small letters, and a plain space before them. */
const halves = (text: string) =>
  text.replace(/\s?([AP])M/i, (_all, half: string) => ` ${half.toLowerCase()}m`);

/** "14:05" */
export const clockTime = (moment: number) => halves(format('time').format(date(moment)));
/** "Mon 23 Nov" */
export const dayName = (moment: number) => format('day').format(date(moment)).replace(',', '');
/** "2026-11-23", the company's date at that moment */
export const isoDay = (moment: number) => format('iso').format(date(moment));
/** " 2025", where it is not this year; else nothing. */
function otherYear(moment: number): string {
  const year = isoDay(moment).slice(0, 4);
  return year === isoDay(serverNow()).slice(0, 4) ? '' : ` ${year}`;
}
/** "Mon 23 Nov"; with the year where it is another one: of what may lie far back, or far ahead. */
export const dayOfAnyYear = (moment: number) => `${dayName(moment)}${otherYear(moment)}`;
/** "23 Nov, 14:05", or "23 Nov 2025, 14:05" */
export const stamp = (moment: number) =>
  halves(format('stamp').format(date(moment))).replace(',', `${otherYear(moment)},`);

/** "10:00–12:00", with the day in front when it is not `day`. */
export function window_(promise: { start: number; end: number }, day?: string): string {
  const words = `${clockTime(promise.start)}–${clockTime(promise.end)}`;
  return day === isoDay(promise.start) ? words : `${dayName(promise.start)} ${words}`;
}

/** "45 min", "1 h 30" */
export function length(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  const rest = minutes % 60;
  return rest ? `${Math.floor(minutes / 60)} h ${String(rest).padStart(2, '0')}` : `${minutes / 60} h`;
}

/** Epoch seconds of a wall-clock time on a date, in the company's zone. */
export function moment(day: string, minutesOfDay: number): number {
  const [year, month, dayOfMonth] = day.split('-').map(Number) as [number, number, number];
  const wanted = Date.UTC(year, month - 1, dayOfMonth, 0, minutesOfDay) / 1000;
  // Two rounds: the zone's offset at the guess, then at the better guess (the clock may change in between).
  let guess = wanted;
  for (let round = 0; round < 2; round++) guess = wanted - offsetAt(guess);
  return guess;
}

function wallClock(at: number): [hour: number, minute: number] {
  return format('wall').format(date(at)).split(':').map(Number) as [number, number];
}

function offsetAt(at: number): number {
  const [year, month, day] = isoDay(at).split('-').map(Number) as [number, number, number];
  const [hour, minute] = wallClock(at);
  return Date.UTC(year, month - 1, day, hour, minute) / 1000 - Math.floor(at / 60) * 60;
}

export function minutesOfDay(at: number): number {
  const [hour, minute] = wallClock(at);
  return hour * 60 + minute;
}

/** The date some days on. */
export function addDays(day: string, days: number): string {
  const [year, month, dayOfMonth] = day.split('-').map(Number) as [number, number, number];
  return new Date(Date.UTC(year, month - 1, dayOfMonth + days)).toISOString().slice(0, 10);
}

/** Calendar days from one to another, as 2026-11-23. */
export function daysBetween(first: string, last: string): number {
  return Math.round((Date.parse(last) - Date.parse(first)) / 86_400_000);
}

/**
 * A time as people type it: "8", "830", "8:30", "8.30", "14h", "2:05 pm", "2p", and "+45" for minutes after `base`.
 * Minutes of the day, or null when it is no time.
 */
export function parseTime(text: string, base?: number): number | null {
  const plain = text.trim().toLowerCase();
  const plus = /^\+\s*(\d{1,4})$/.exec(plain);
  if (plus) return base === undefined ? null : withinDay(base + Number(plus[1]));
  const half = /^(\d{1,2})(?:[:.]?(\d{2}))?\s*([ap])\.?(?:m\.?)?$/.exec(plain);
  if (half) return ofHalf(Number(half[1]), Number(half[2] ?? 0), half[3] === 'p');
  const split = /^(\d{1,2})\s*[:.h]\s*(\d{2})?$/.exec(plain);
  if (split) return ofDay(Number(split[1]), Number(split[2] ?? 0));
  if (!/^\d{1,4}$/.test(plain)) return null;
  if (plain.length <= 2) return ofDay(Number(plain), 0);
  return ofDay(Number(plain.slice(0, -2)), Number(plain.slice(-2)));
}

/** A length as people type it: "45" minutes, "1:30", "1h30", "2h". Seconds, or null. */
export function parseLength(text: string): number | null {
  const plain = text.trim().toLowerCase().replace(/\s+/g, '').replace(/min$/, '');
  const split = /^(\d{1,2})[:h](\d{1,2})?$/.exec(plain);
  if (split) return (Number(split[1]) * 60 + Number(split[2] ?? 0)) * 60 || null;
  return /^\d{1,4}$/.test(plain) && Number(plain) > 0 ? Number(plain) * 60 : null;
}

/** A gap as people type it: a length, or days as "1d". Seconds, or null when it is none. */
export function parseGap(text: string): number | null {
  const days = /^(\d{1,3})\s*d(ays?)?$/.exec(text.trim().toLowerCase());
  return days ? Number(days[1]) * 86_400 : parseLength(text);
}

const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const FULL = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/**
 * A day as people type it: "fri", "+3", "2.12", "2 dec", "2/12/2026", "2026-12-02", "today", "tomorrow", or as it is shown:
 * "Wed 2 Dec". A weekday, or a day without a year, is the next one from `today` on; with `past` the last one up to today.
 * As 2026-12-02, or null when it is no day.
 */
export function parseDay(text: string, today: string, { past = false } = {}): string | null {
  const plain = text.trim().toLowerCase();
  const shift = /^([+-])\s*(\d{1,3})$/.exec(plain);
  if (shift) return addDays(today, Number(shift[2]) * (shift[1] === '-' ? -1 : 1));
  if (plain === 'today') return today;
  if (plain === 'tomorrow' || plain === 'tom') return addDays(today, 1);
  if (plain === 'yesterday') return addDays(today, -1);
  const weekday = WEEKDAYS.findIndex(
    (name, at) =>
      plain.length >= 2 && (name.startsWith(plain) || (plain.length > 3 && FULL[at]!.startsWith(plain))),
  );
  if (weekday >= 0) {
    const on = (weekday - weekdayOf(today) + 7) % 7;
    return addDays(today, past && on ? on - 7 : on);
  }
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(plain);
  if (iso) return realDay(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const [year, month] = today.split('-').map(Number) as [number, number, number];
  const said = dayParts(plain);
  if (!said) return null;
  const { day, month: inMonth, year: inYear } = said;
  if (inYear) return inMonth ? realDay(inYear, inMonth, day) : null;
  const around = inMonth
    ? [-1, 0, 1].map((by) => realDay(year + by, inMonth, day))
    : [-2, -1, 0, 1, 2].map((by) => dayOfMonth(year * 12 + month - 1 + by, day));
  return nearest(around, today, past);
}

/** A day of the month that is so many months after the year 0. */
const dayOfMonth = (months: number, day: number) => realDay(Math.floor(months / 12), (months % 12) + 1, day);

/** "2.12", "2/12/2026", "2 dec", "wed 2 dec 2026", "dec 2" as numbers; "12/2" where the month comes first. */
function dayParts(plain: string) {
  const turned = /^(?:[a-z]+,?\s+)?([a-z]{3,})\.?\s+(\d{1,2})(?:,?\s+(\d{4}))?$/.exec(plain);
  if (turned) return dayFirst([turned[2], turned[1], turned[3]].filter(Boolean).join(' '));
  const slashed = style.month_first ? /^(\d{1,2})[/-](\d{1,2})(?:[/-](\d{4}))?$/.exec(plain) : null;
  return dayFirst(slashed ? [slashed[2], slashed[1], slashed[3]].filter(Boolean).join('/') : plain);
}

function dayFirst(plain: string): { day: number; month?: number; year?: number } | null {
  const words = /^(?:[a-z]+,?\s+)?(\d{1,2})\.?\s+([a-z]{3,})\.?(?:\s+(\d{4}))?$/.exec(plain);
  const numbers = /^(\d{1,2})(?:[./-](\d{1,2}))?[./-]?(?:(\d{4}))?\.?$/.exec(plain);
  const found = words ?? numbers;
  if (!found) return null;
  const month = words ? MONTHS.indexOf(found[2]!.slice(0, 3)) + 1 : Number(found[2] ?? 0);
  if (words && month === 0) return null;
  return {
    day: Number(found[1]),
    ...(month ? { month } : {}),
    ...(found[3] ? { year: Number(found[3]) } : {}),
  };
}

const weekdayOf = (day: string) => (new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7;
const nearest = (days: (string | null)[], today: string, past: boolean) =>
  (past
    ? days.findLast((day) => day !== null && day <= today)
    : days.find((day) => day !== null && day >= today)) ?? null;

function realDay(year: number, month: number, day: number): string | null {
  const found = new Date(Date.UTC(year, month - 1, day));
  const real = found.getUTCMonth() === month - 1 && found.getUTCDate() === day && year >= 1900 && year < 2100;
  return real ? found.toISOString().slice(0, 10) : null;
}

function ofDay(hours: number, minutes: number): number | null {
  return hours < 24 && minutes < 60 ? hours * 60 + minutes : null;
}

/** "12 am" is midnight, "12 pm" noon. */
function ofHalf(hours: number, minutes: number, afternoon: boolean): number | null {
  if (hours < 1 || hours > 12) return null;
  return ofDay((hours % 12) + (afternoon ? 12 : 0), minutes);
}

function withinDay(minutes: number): number | null {
  return minutes < 24 * 60 ? minutes : null;
}

/** Minutes of the day as "08:30", or as "8:30 am". */
export function timeText(minutes: number): string {
  if (style.twelve_hours) {
    const hours = Math.floor(minutes / 60) % 24;
    return `${hours % 12 || 12}:${String(minutes % 60).padStart(2, '0')} ${hours < 12 ? 'am' : 'pm'}`;
  }
  return wallText(minutes);
}

/** Minutes of the day as the server takes them: "08:30". */
export function wallText(minutes: number): string {
  return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
}
