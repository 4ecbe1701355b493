import { Check } from 'lucide-react';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { useRoles } from '../queries';

/** What each role may do, as the server decides it: a line for each deed, a column for each role. */
export function Roles() {
  const roles = useRoles();
  if (roles.isError) return <Notice tone="bad">{sentenceOf(roles.error)}</Notice>;
  const rows = roles.data ?? [];
  const deeds = rows.length > 0 ? [...rows[0]!.may, ...rows[0]!.may_not] : [];
  return (
    <section aria-labelledby="roles" className="space-y-3">
      <h2 id="roles" className="font-semibold">
        What each role may do
      </h2>
      <dl className="grid max-w-xl grid-cols-[7rem_1fr] gap-x-3 text-sm">
        {rows.map((row) => (
          <div key={row.role} className="contents">
            <dt className="font-semibold">{row.role}</dt>
            <dd className="text-ink-soft">{row.duty}</dd>
          </div>
        ))}
      </dl>
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b border-hairline text-left">
            <th scope="col" className="font-semibold">
              May
            </th>
            {rows.map((row) => (
              <th key={row.role} scope="col" className="w-20 px-1 text-center text-xs font-semibold">
                {row.role}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {deeds.map((deed) => (
            <tr key={deed} className="border-b border-hairline">
              <th scope="row" className="py-0.5 text-left font-normal">
                {deed}
              </th>
              {rows.map((row) => (
                <td key={row.role} className="text-center">
                  {row.may.includes(deed) ? (
                    <Check size={15} className="inline text-good" aria-label="yes" />
                  ) : (
                    <span className="text-ink-soft" aria-label="no">
                      –
                    </span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
