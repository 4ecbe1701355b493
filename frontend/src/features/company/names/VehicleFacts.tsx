import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaVehicleOut } from '@/api/types';
import { Form, FormDay, FormSelect, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { serverNow } from '@/shared/clock';
import { addDays, isoDay } from '@/shared/time';
import { useCompany } from '../queries';
import { useSetVehicle, useVehicle } from './queries';

const schema = z.object({
  plate: z.string().trim(),
  depot_id: z.coerce.number().int(),
  inspection_due: z.string(),
  cost_per_km: z
    .string()
    .trim()
    .regex(/^(\d{1,6}([.,]\d{1,2})?)?$/, 'An amount, like 0.42'),
});
/** So many days ahead an inspection is pointed at. */
const WARN_DAYS = 30;

/** What is known of a vehicle besides its name. */
export function VehicleFacts({ code }: { code: string }) {
  const vehicle = useVehicle(code);
  // A choice of depots is drawn once they are known: its value could not be shown before.
  const company = useCompany();
  return vehicle.data && company.data ? <Facts vehicle={vehicle.data} /> : null;
}

function Facts({ vehicle }: { vehicle: SchemaVehicleOut }) {
  const set = useSetVehicle(vehicle.code);
  const company = useCompany().data;
  const kept = useKeptForm({
    schema,
    values: {
      plate: vehicle.plate ?? '',
      depot_id: vehicle.depot_id ?? 0,
      inspection_due: vehicle.inspection_due ?? '',
      cost_per_km: vehicle.cost_per_km == null ? '' : String(vehicle.cost_per_km),
    },
    keep: async ({ plate, depot_id, inspection_due, cost_per_km }) => {
      await set.mutateAsync({
        version: vehicle.version,
        plate,
        depot_id: depot_id || null,
        inspection_due: inspection_due || null,
        cost_per_km: cost_per_km ? cost_per_km.replace(',', '.') : null,
      });
      toast.success(`${vehicle.name} is saved`);
    },
  });
  return (
    <Form kept={kept} label="Vehicle" className="space-y-2">
      <p className="text-ink-soft">
        {vehicle.drivers.length ? `Driven by ${vehicle.drivers.join(', ')}.` : 'Nobody drives it.'}
      </p>
      <div className="grid grid-cols-2 gap-2">
        <FormText name="plate" label="Number plate" maxLength={20} />
        <FormSelect name="depot_id" label="Depot">
          <option value={0}>none</option>
          {(company?.depots ?? []).map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
        </FormSelect>
        <FormDay name="inspection_due" label="Inspection due" />
        <FormText name="cost_per_km" label={`Cost of a kilometre, ${company?.currency ?? ''}`} />
      </div>
      <Due day={vehicle.inspection_due ?? null} />
      <KeepOrLeave words="Save vehicle" />
    </Form>
  );
}

function Due({ day }: { day: string | null }) {
  const today = isoDay(serverNow());
  if (day === null || day > addDays(today, WARN_DAYS)) return null;
  return day < today ? (
    <p className="text-bad">The inspection is overdue.</p>
  ) : (
    <p className="text-warn">The inspection is due soon.</p>
  );
}
