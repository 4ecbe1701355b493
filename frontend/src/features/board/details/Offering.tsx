import { useState } from 'react';
import type { SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { OfferTime } from '@/features/appointments';

/** The customer of a visit that waits is offered a time. */
export function Offering({ visit }: { visit: SchemaVisitDetailOut }) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="Offer a time" className="space-y-2">
      <Button aria-expanded={open} onClick={() => setOpen(!open)}>
        Offer the customer a time
      </Button>
      {open && <OfferTime visitId={visit.id} version={visit.version} onPromised={() => setOpen(false)} />}
    </section>
  );
}
