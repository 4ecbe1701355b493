// How work is charged, as it is typed.

import type { SchemaChargingIn, SchemaChargingOut, SchemaTravelWay } from '@/api/types';
import { amountText, parseAmount } from '@/shared/money';

export interface TypedSurcharge {
  name: string;
  percent: string;
  week: string[];
  holidays: boolean;
}

export interface TypedCharging {
  labourItem: string;
  skillItems: Record<string, string>;
  step: string;
  least: string;
  surcharges: TypedSurcharge[];
  travelItem: string;
  way: SchemaTravelWay;
  rate: string;
  leastJourney: string;
  otherwise: string;
  flat: Record<string, string>;
}

export const typedCharging = (row: SchemaChargingOut, currency: string): TypedCharging => ({
  labourItem: row.labour_item ?? '',
  skillItems: row.skill_items ?? {},
  step: String(row.step_minutes),
  least: String(row.least_minutes),
  surcharges: (row.surcharges ?? []).map((one) => ({
    name: one.name,
    percent: String(Number(one.percent)),
    week: one.week,
    holidays: one.holidays ?? false,
  })),
  travelItem: row.travel_item ?? '',
  way: row.travel?.way ?? 'nothing',
  rate: row.travel?.rate ? amountText(row.travel.rate, currency) : '',
  leastJourney: row.travel?.least ? amountText(row.travel.least, currency) : '',
  otherwise: row.travel?.otherwise ? amountText(row.travel.otherwise, currency) : '',
  flat: Object.fromEntries(
    Object.entries(row.travel?.flat ?? {}).map(([area, amount]) => [area, amountText(amount, currency)]),
  ),
});

export function chargingIn(typed: TypedCharging, version: number, currency: string): SchemaChargingIn {
  const amount = (text: string) => parseAmount(text || '0', currency) ?? 0;
  const flat = Object.entries(typed.flat).filter(([, text]) => text.trim() !== '');
  return {
    version,
    labour_item: typed.labourItem,
    skill_items: typed.skillItems,
    step_minutes: Number(typed.step) || 0,
    least_minutes: Number(typed.least) || 0,
    surcharges: typed.surcharges.map((one) => ({ ...one, percent: one.percent.replace(',', '.') })),
    travel_item: typed.travelItem,
    travel: {
      way: typed.way,
      rate: amount(typed.rate),
      least: amount(typed.leastJourney),
      otherwise: amount(typed.otherwise),
      flat: Object.fromEntries(flat.map(([area, text]) => [area, amount(text)])),
    },
  };
}
