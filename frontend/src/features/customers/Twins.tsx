import type { SchemaTwinOut } from '@/api/types';
import { Button } from '@/design/Button';
import type { Like } from './queries';

interface Props {
  mine: Like;
  twins: SchemaTwinOut[];
  onSame: (customerId: number) => void;
  words?: string;
}

/** The likely twins beside what was typed, and why they look alike. */
export function Twins({ mine, twins, onSame, words = 'It is them' }: Props) {
  if (twins.length === 0) return null;
  const rows: { label: string; own: string; of: (twin: SchemaTwinOut) => string }[] = [
    { label: 'Phone', own: mine.phone, of: (twin) => twin.customer.phone },
    { label: 'E-mail', own: mine.email, of: (twin) => twin.customer.email },
    {
      label: 'Address',
      own: mine.address,
      of: (twin) => twin.sites.map((site) => site.address).join('; ') || 'no site',
    },
  ];
  const shown = twins.slice(0, 3);
  return (
    <section
      role="status"
      aria-label="Perhaps we know them already"
      className="overflow-x-auto rounded-sm border-l-4 border-warn bg-warn-wash p-2 text-sm"
    >
      <table className="w-full text-left align-top">
        <thead>
          <tr className="align-top">
            <th className="pr-2 font-semibold">Perhaps we know them already:</th>
            <th className="pr-2 font-normal text-ink-soft">as typed</th>
            {shown.map((twin) => (
              <th key={twin.customer.id} className="pr-2 font-semibold">
                {twin.customer.name}
                <span className="block text-xs font-normal text-warn">{twin.because.join(', ')}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.label} className="align-top">
              <td className="pr-2 text-ink-soft">{row.label}</td>
              <td className="pr-2">{row.own || '–'}</td>
              {shown.map((twin) => (
                <td key={twin.customer.id} className="pr-2">
                  {row.of(twin) || '–'}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <td />
            <td />
            {shown.map((twin) => (
              <td key={twin.customer.id} className="pt-1">
                <Button onClick={() => onSame(twin.customer.id)}>{words}</Button>
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </section>
  );
}
