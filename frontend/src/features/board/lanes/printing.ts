import { toast } from 'sonner';
import { api, data, sentenceOf, urlOf } from '@/api/client';

const LOOK_AGAIN = 1000;

/** Have all work orders of a day printed by the worker; a line says how far it is, and leads to the papers. */
export async function printOrders(day: string): Promise<void> {
  const id = `print ${day}`;
  try {
    let row = await data(api.POST('/api/v1/printouts', { body: { day } }));
    while (row.state === 'waiting' || row.state === 'printing') {
      toast.loading(`Printing ${row.orders} work orders: ${Math.round(100 * row.share)} %`, { id });
      await new Promise((resolve) => window.setTimeout(resolve, LOOK_AGAIN));
      row = await data(
        api.GET('/api/v1/printouts/{printout_id}', { params: { path: { printout_id: row.id } } }),
      );
    }
    if (row.state === 'failed') throw new Error(row.failure);
    toast.success(`${row.orders} work orders are printed`, {
      id,
      duration: 60_000,
      action: {
        label: 'Open',
        onClick: () =>
          window.open(urlOf('/api/v1/printouts/{printout_id}/pdf', { printout_id: row.id }), '_blank'),
      },
    });
  } catch (error) {
    toast.error(sentenceOf(error), { id });
  }
}
