import { afterEach, beforeAll, describe, expect, it } from 'vitest';
import { setServerNow } from '@/shared/clock';
import {
  addDays,
  clockTime,
  dayName,
  dayOfAnyYear,
  isoDay,
  length,
  moment,
  parseDay,
  parseGap,
  parseLength,
  parseTime,
  setStyle,
  setTimeZone,
  stamp,
  timeText,
  window_,
} from '@/shared/time';

beforeAll(() => setTimeZone('Atlantic/Azores'));
const utc = (text: string) => Date.parse(text) / 1000;

describe('times as people type them', () => {
  it.each([
    ['8', 480],
    ['08', 480],
    ['830', 510],
    ['0830', 510],
    ['8:30', 510],
    ['8.30', 510],
    ['14h', 840],
    ['14h15', 855],
    ['+45', 645],
    ['  9 ', 540],
  ])('%s', (text, minutes) => expect(parseTime(text, 600)).toBe(minutes));

  it.each(['', '25', '870', '8:75', 'noon', '+', '12345'])('“%s” is no time', (text) =>
    expect(parseTime(text, 600)).toBeNull(),
  );

  it('needs something to add to', () => expect(parseTime('+45')).toBeNull());
});

describe('lengths as people type them', () => {
  it.each([
    ['45', 2700],
    ['45 min', 2700],
    ['1:30', 5400],
    ['1h30', 5400],
    ['2h', 7200],
  ])('%s', (text, seconds) => expect(parseLength(text)).toBe(seconds));
  it.each(['', '0', 'soon', '1:2:3'])('“%s” is no length', (text) => expect(parseLength(text)).toBeNull());
});

describe('the company’s zone', () => {
  it('shows moments on its own clock', () => {
    expect(clockTime(utc('2026-11-23T11:40Z'))).toBe('10:40');
    expect(dayName(utc('2026-11-23T11:40Z'))).toBe('Mon 23 Nov');
    setServerNow(utc('2026-11-23T11:40Z'));
    expect(stamp(utc('2025-11-23T11:40Z'))).toMatch(/^23 Nov 2025, \d\d:40$/);
    expect(dayOfAnyYear(utc('2026-11-23T11:40Z'))).toBe('Mon 23 Nov');
    expect(dayOfAnyYear(utc('2027-01-02T11:40Z'))).toBe('Sat 2 Jan 2027');
    expect(isoDay(utc('2026-11-24T00:30Z'))).toBe('2026-11-23');
  });

  it('finds the moment of a wall-clock time in winter and summer', () => {
    expect(moment('2026-11-23', 600)).toBe(utc('2026-11-23T11:00Z'));
    expect(moment('2026-07-01', 600)).toBe(utc('2026-07-01T10:00Z'));
  });

  it('keeps the wall-clock time on the day the clock changes', () => {
    expect(clockTime(moment('2027-03-28', 10 * 60))).toBe('10:00');
    expect(clockTime(moment('2026-10-25', 10 * 60))).toBe('10:00');
  });
});

it('walks over months and years', () => {
  expect(addDays('2026-12-31', 1)).toBe('2027-01-01');
  expect(addDays('2026-03-01', -1)).toBe('2026-02-28');
});

it('says lengths and windows in words', () => {
  expect([length(2700), length(3600), length(5400)]).toEqual(['45 min', '1 h', '1 h 30']);
  const promise = { start: utc('2026-11-23T11:00Z'), end: utc('2026-11-23T13:00Z') };
  expect(window_(promise, '2026-11-23')).toBe('10:00–12:00');
  expect(window_(promise, '2026-11-24')).toBe('Mon 23 Nov 10:00–12:00');
});

describe('a day as people type it', () => {
  it.each([
    ['fri', '2026-11-27'],
    ['Friday', '2026-11-27'],
    ['wed', '2026-11-25'],
    ['mo', '2026-11-30'],
    ['+3', '2026-11-28'],
    ['-1', '2026-11-24'],
    ['today', '2026-11-25'],
    ['tomorrow', '2026-11-26'],
    ['2.12', '2026-12-02'],
    ['2/12', '2026-12-02'],
    ['2.12.', '2026-12-02'],
    ['1.3', '2027-03-01'],
    ['24.12.2027', '2027-12-24'],
    ['2026-12-02', '2026-12-02'],
    ['28', '2026-11-28'],
    ['3', '2026-12-03'],
  ])('%s', (text, day) => expect(parseDay(text, '2026-11-25')).toBe(day));

  it.each([
    ['Wed 2 Dec', '2026-12-02'],
    ['Thu 28 Nov 2027', '2027-11-28'],
    ['2 december', '2026-12-02'],
    ['3 jan', '2027-01-03'],
    ['1.6.1984', '1984-06-01'],
    ['yesterday', '2026-11-24'],
  ])('as it is shown or said: %s', (text, day) => expect(parseDay(text, '2026-11-25')).toBe(day));

  it.each([
    ['fri', '2026-11-20'],
    ['wed', '2026-11-25'],
    ['2.12', '2025-12-02'],
    ['30', '2026-10-30'],
    ['31 jan', '2026-01-31'],
  ])('of the past: %s', (text, day) => expect(parseDay(text, '2026-11-25', { past: true })).toBe(day));

  it.each(['', 'soon', '31.2', '32', '2026-13-01', '1.1.1899', 'f', '1.2.3.4', '2 xyz'])(
    '“%s” is none',
    (text) => expect(parseDay(text, '2026-11-25')).toBeNull(),
  );
});

describe('a gap as people type it', () => {
  it.each([
    ['1d', 86_400],
    ['2 days', 172_800],
    ['2h', 7200],
    ['45', 2700],
  ])('%s', (text, seconds) => expect(parseGap(text)).toBe(seconds));
  it.each(['x', '1w', '0'])('“%s” is none', (text) => expect(parseGap(text)).toBeNull());
});

describe('with a clock of twelve hours and the month first', () => {
  const usual = { twelve_hours: false, month_first: false, week_begins: 'Monday' };
  const there = { twelve_hours: true, month_first: true, week_begins: 'Sunday' };
  afterEach(() => setStyle(usual));

  it('moments are said so, and counted as ever', () => {
    setStyle(there);
    const noon = utc('2026-11-23T13:05Z');
    expect(clockTime(noon)).toBe('12:05 pm');
    expect(clockTime(utc('2026-11-23T01:00Z'))).toBe('12:00 am');
    expect(dayName(noon)).toBe('Mon Nov 23');
    expect(stamp(noon)).toBe('Nov 23, 12:05 pm');
    expect(timeText(810)).toBe('1:30 pm');
    expect(moment('2026-11-23', 725)).toBe(noon);
  });

  it.each([
    ['1:30 pm', 810],
    ['1p', 780],
    ['12am', 0],
    ['12 p.m.', 720],
    ['130pm', 810],
    ['13:30', 810],
    ['13 pm', null],
    ['0am', null],
  ])('the time %s', (text, minutes) => {
    expect(parseTime(text)).toBe(minutes);
    setStyle(there);
    expect(parseTime(text)).toBe(minutes);
  });

  it('what is shown is read as what it was', () => {
    setStyle(there);
    for (let minutes = 0; minutes < 1440; minutes += 7) expect(parseTime(timeText(minutes))).toBe(minutes);
    for (const day of ['2026-11-23', '2026-12-01', '2027-01-31'])
      expect(parseDay(dayName(moment(day, 720)), '2026-11-20')).toBe(day);
  });

  it('numbers are read in the company’s order', () => {
    expect(parseDay('2/12', '2026-11-20')).toBe('2026-12-02');
    setStyle(there);
    expect(parseDay('12/2', '2026-11-20')).toBe('2026-12-02');
    expect(parseDay('12/2/2027', '2026-11-20')).toBe('2027-12-02');
    expect(parseDay('dec 2, 2027', '2026-11-20')).toBe('2027-12-02');
  });
});
