import type { SchemaTravelWay } from '@/api/types';
import { SelectField, TextField } from '@/design/Field';
import { useCompany } from '@/features/company';
import { useCurrency, useItems } from '../queries';
import type { TypedCharging } from './model';

const WAYS: SchemaTravelWay[] = ['nothing', 'flat by area', 'per km', 'per hour'];

interface Props {
  typed: TypedCharging;
  set: (changes: Partial<TypedCharging>) => void;
}

/** What the way there and back costs: flat by area, per km or per hour; or nothing. */
export function Journeys({ typed, set }: Props) {
  const currency = useCurrency();
  const journeys = (useItems().data ?? []).filter((item) => item.kind === 'travel' && !item.retired);
  const isFlat = typed.way === 'flat by area';
  return (
    <section aria-label="Journeys" className="space-y-2">
      <h2 className="font-semibold">Journeys</h2>
      <p className="text-ink-soft">
        Put into work that has no journey among its lines. Kilometres and hours are there and back, from the
        depot next to it.
      </p>
      <div className="grid grid-cols-4 gap-2">
        <SelectField
          label="Charged"
          value={typed.way}
          onChange={(event) => set({ way: event.target.value as SchemaTravelWay })}
        >
          {WAYS.map((way) => (
            <option key={way}>{way}</option>
          ))}
        </SelectField>
        {typed.way !== 'nothing' && (
          <SelectField
            label="On the line"
            value={typed.travelItem}
            onChange={(event) => set({ travelItem: event.target.value })}
          >
            <option value="">“Journey”</option>
            {journeys.map((item) => (
              <option key={item.key} value={item.key}>
                {item.wording}
              </option>
            ))}
          </SelectField>
        )}
        <Rate typed={typed} set={set} />
        {typed.way !== 'nothing' && (
          <TextField
            label={`At least ${currency}`}
            inputMode="decimal"
            value={typed.leastJourney}
            onChange={(event) => set({ leastJourney: event.target.value })}
          />
        )}
      </div>
      {isFlat && <ByArea typed={typed} set={set} />}
    </section>
  );
}

function ByArea({ typed, set }: Props) {
  const currency = useCurrency();
  const areas = useCompany().data?.areas ?? [];
  return (
    <div className="grid grid-cols-5 gap-2">
      {areas.map((area) => (
        <TextField
          key={area.id}
          label={area.name}
          inputMode="decimal"
          placeholder={typed.otherwise || currency}
          value={typed.flat[area.id] ?? ''}
          onChange={(event) => set({ flat: { ...typed.flat, [area.id]: event.target.value } })}
        />
      ))}
    </div>
  );
}

/** What a kilometre, an hour, or a journey to any other area costs. */
function Rate({ typed, set }: Props) {
  const currency = useCurrency();
  return (
    <>
      {(typed.way === 'per km' || typed.way === 'per hour') && (
        <TextField
          label={`${currency} ${typed.way}`}
          inputMode="decimal"
          value={typed.rate}
          onChange={(event) => set({ rate: event.target.value })}
        />
      )}
      {typed.way === 'flat by area' && (
        <TextField
          label={`${currency} where nothing else is said`}
          inputMode="decimal"
          value={typed.otherwise}
          onChange={(event) => set({ otherwise: event.target.value })}
        />
      )}
    </>
  );
}
