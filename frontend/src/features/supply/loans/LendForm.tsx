import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { useTechnicians } from '@/features/people';
import { PartChoice, PlaceChoice, useChosenPart } from '@/features/stock';
import { useLend } from '../queries';
import { SiteField, type ChosenSite } from '../SiteField';

/** Lend a part or a tool to a site, or to a technician. */
export function LendForm({ onDone }: { onDone: () => void }) {
  const technicians = useTechnicians().data ?? [];
  const lend = useLend();
  const [code, setCode] = useState('');
  const [quantity, setQuantity] = useState('1');
  const [serial, setSerial] = useState('');
  const [source, setSource] = useState<number | null>(null);
  const [whom, setWhom] = useState<'site' | 'technician'>('site');
  const [site, setSite] = useState<ChosenSite | null>(null);
  const [technician, setTechnician] = useState('');
  const [due, setDue] = useState('');
  const [calibrated, setCalibrated] = useState('');
  const [note, setNote] = useState('');
  const tracked = useChosenPart(code).data?.tracking === 'serial number';
  const submit = (event: FormEvent) => {
    event.preventDefault();
    lend.mutate(
      {
        code,
        quantity: Number(quantity),
        serial: tracked ? serial.trim() : '',
        source_id: source,
        asset_id: null,
        site_id: whom === 'site' ? (site?.siteId ?? null) : null,
        technician_id: whom === 'technician' ? Number(technician) || null : null,
        due,
        calibrated_until: calibrated || null,
        note,
      },
      {
        onSuccess: () => {
          toast.success('It is lent');
          onDone();
        },
      },
    );
  };
  return (
    <form
      onSubmit={submit}
      aria-label="Lend something"
      className="space-y-2 rounded-sm border border-hairline bg-sheet p-3"
    >
      <div className="grid grid-cols-[1fr_6rem_14rem] gap-2">
        <PartChoice label="What" value={code} onChoose={setCode} autoFocus />
        <TextField
          label="How many"
          inputMode="numeric"
          value={quantity}
          onChange={(event) => setQuantity(event.target.value)}
        />
        <PlaceChoice label="From" value={source} onChoose={setSource} />
      </div>
      {tracked && (
        <TextField label="Serial number" value={serial} onChange={(event) => setSerial(event.target.value)} />
      )}
      <div className="grid grid-cols-[14rem_1fr] gap-2">
        <SelectField label="To" value={whom} onChange={(event) => setWhom(event.target.value as typeof whom)}>
          <option value="site">a customer’s site</option>
          <option value="technician">a technician</option>
        </SelectField>
        {whom === 'site' ? (
          <SiteField value={site} onChoose={setSite} />
        ) : (
          <SelectField
            label="Whom"
            value={technician}
            onChange={(event) => setTechnician(event.target.value)}
          >
            <option value="">choose…</option>
            {technicians.map((row) => (
              <option key={row.id} value={row.id}>
                {row.name}
              </option>
            ))}
          </SelectField>
        )}
      </div>
      <div className="grid grid-cols-3 gap-2">
        <DayField label="Due back" value={due} onChange={setDue} />
        <DayField label="Calibrated until" value={calibrated} onChange={setCalibrated} />
        <TextField
          label="Note"
          maxLength={200}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </div>
      <FormError error={lend.error} />
      <Button
        type="submit"
        disabled={!code || !source || !due || (whom === 'site' ? !site : !technician) || lend.isPending}
      >
        Lend it
      </Button>
    </form>
  );
}
