import { useFormContext } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import { sentenceOf } from '@/api/client';
import type { SchemaTechnicianRecordOut, SchemaTermsOut } from '@/api/types';
import {
  Form,
  FormCheck,
  FormDay,
  FormSelect,
  FormText,
  FormValue,
  KeepOrLeave,
  useKeptForm,
} from '@/design/form';
import { Notice } from '@/design/Notice';
import { useCompany } from '@/features/company';
import { FormAddress, type PickedPlace } from '@/features/roads';
import { serverNow } from '@/shared/clock';
import { isoDay } from '@/shared/time';
import { useSetTerms, useTerms, useVehicles } from '../queries';
import { saidOf, wishesOf, type Wishes } from './wishes';
import { WishesField } from './WishesField';

const schema = z
  .object({
    home: z.custom<PickedPlace | null>(),
    starts_at_home: z.boolean(),
    ends_at_home: z.boolean(),
    vehicle: z.string(),
    cost_per_hour: z
      .string()
      .trim()
      .regex(/^(\d{1,6}([.,]\d{1,2})?)?$/, 'An amount, like 42.50'),
    holiday_days: z
      .string()
      .trim()
      .regex(/^\d{0,3}$/, 'A number of days'),
    wishes: z.custom<Wishes>(),
    valid_from: z.string(),
  })
  .refine((typed) => typed.home !== null || !(typed.starts_at_home || typed.ends_at_home), {
    path: ['home'],
    message: 'Choose the home address from the list first',
  });

/** Where the day begins and ends, what somebody drives, what an hour costs, and what they like. */
export function TermsForm({ person }: { person: SchemaTechnicianRecordOut }) {
  const terms = useTerms(person.id);
  // Choices are drawn once they are known: a value that is none of them could not be shown.
  const vehicles = useVehicles();
  if (terms.isError) return <Notice tone="bad">{sentenceOf(terms.error)}</Notice>;
  if (!terms.data || !vehicles.data) return null;
  return <Terms person={person} terms={terms.data} />;
}

interface Props {
  person: SchemaTechnicianRecordOut;
  terms: SchemaTermsOut;
}

const placeOf = ({ home_address, home_lon, home_lat }: SchemaTermsOut): PickedPlace | null =>
  home_lon == null || home_lat == null
    ? null
    : { address: home_address ?? '', lon: home_lon, lat: home_lat, area: null };

function Terms({ person, terms }: Props) {
  const set = useSetTerms(person.id);
  const currency = useCompany().data?.currency ?? '';
  const kept = useKeptForm({
    schema,
    values: {
      home: placeOf(terms),
      starts_at_home: terms.starts_at_home ?? false,
      ends_at_home: terms.ends_at_home ?? false,
      vehicle: terms.vehicle ?? '',
      cost_per_hour: terms.cost_per_hour == null ? '' : String(terms.cost_per_hour),
      holiday_days: terms.holiday_days == null ? '' : String(terms.holiday_days),
      wishes: wishesOf(terms),
      valid_from: isoDay(serverNow()),
    },
    keep: async ({ home, wishes, vehicle, cost_per_hour, holiday_days, ...ends }) => {
      await set.mutateAsync({
        version: person.version,
        home_address: home?.address ?? '',
        home_lon: home?.lon ?? null,
        home_lat: home?.lat ?? null,
        vehicle: vehicle || null,
        cost_per_hour: cost_per_hour ? cost_per_hour.replace(',', '.') : null,
        holiday_days: holiday_days ? Number(holiday_days) : null,
        ...ends,
        ...saidOf(wishes),
      });
      toast.success(`How ${person.name} works is saved`);
    },
  });
  return (
    <Form kept={kept} label="Way of working" className="max-w-2xl space-y-2">
      <h2 className="font-semibold">Way of working</h2>
      <div className="grid grid-cols-2 gap-3">
        <div className="space-y-1">
          <p className="text-xs font-semibold text-ink-soft">Home</p>
          <FormAddress name="home" isSite={false} />
        </div>
        <div className="space-y-1 pt-5">
          <FormCheck name="starts_at_home" words="The day begins at home, not at the depot" />
          <FormCheck name="ends_at_home" words="The day ends at home" />
          <OtherEnds />
        </div>
        <Vehicles chosen={terms.vehicle ?? null} />
        <FormText name="cost_per_hour" label={`Cost of an hour, ${currency}`} inputMode="decimal" />
        <FormText
          name="holiday_days"
          label="Days of holiday a year; empty: not counted"
          inputMode="numeric"
        />
      </div>
      <FormValue name="wishes">
        {({ value, onChange }) => <WishesField wishes={value as Wishes} onChange={onChange} />}
      </FormValue>
      <KeepOrLeave words="Save way of working" />
    </Form>
  );
}

function Vehicles({ chosen }: { chosen: string | null }) {
  const vehicles = (useVehicles().data ?? []).filter((row) => !row.retired || row.code === chosen);
  return (
    <FormSelect name="vehicle" label="Vehicle">
      <option value="">none</option>
      {vehicles.map((row) => (
        <option key={row.code} value={row.code}>
          {row.name}
        </option>
      ))}
    </FormSelect>
  );
}

/** Where days begin and end holds from a day on: the days before it stay as they were. */
function OtherEnds() {
  const { dirtyFields } = useFormContext().formState;
  if (!dirtyFields['home'] && !dirtyFields['starts_at_home'] && !dirtyFields['ends_at_home']) return null;
  return <FormDay name="valid_from" label="From" className="w-40" />;
}
