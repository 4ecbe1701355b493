import { FormValue } from '@/design/form';
import { AddressField } from './AddressField';
import type { PickedPlace } from './model';

/** An address in a form: the place that was chosen, or null. */
export const FormAddress = ({ name, isSite = true }: { name: string; isSite?: boolean }) => (
  <FormValue name={name}>
    {({ value, onChange, error }) => (
      <div>
        <AddressField picked={value as PickedPlace | null} onPick={onChange} isSite={isSite} />
        {error && (
          <p role="alert" className="text-xs text-bad">
            {error}
          </p>
        )}
      </div>
    )}
  </FormValue>
);
