import { Check } from 'lucide-react';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaAction, SchemaDeedOut, SchemaOwnRoleOut, SchemaRolesOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useCompany } from '@/features/company';
import { useRoles } from '../queries';
import { reachOf } from './reach';
import { RoleForm } from './RoleForm';

/** What each role may do, as the server decides it, and roles of the company's own. */
export function Roles() {
  const roles = useRoles();
  const [chosen, setChosen] = useState<number | 'new' | null>(null);
  if (roles.isError) return <Notice tone="bad">{sentenceOf(roles.error)}</Notice>;
  if (!roles.data) return null;
  const row = roles.data.own.find((one) => one.id === chosen);
  const leave = () => setChosen(null);
  if (chosen === 'new' || row)
    return <RoleForm key={row?.version ?? 'new'} row={row} deeds={roles.data.deeds} onLeave={leave} />;
  return (
    <section aria-labelledby="roles" className="space-y-3">
      <div className="flex items-center justify-between">
        <h2 id="roles" className="font-semibold">
          What each role may do
        </h2>
        <Button onClick={() => setChosen('new')}>Put a role of your own together</Button>
      </div>
      <Duties roles={roles.data} onChoose={setChosen} />
      <Matrix deeds={roles.data.deeds} columns={columnsOf(roles.data)} />
    </section>
  );
}

interface DutiesProps {
  roles: SchemaRolesOut;
  onChoose: (id: number) => void;
}

function Duties({ roles, onChoose }: DutiesProps) {
  return (
    <dl className="grid max-w-2xl grid-cols-[10rem_1fr] gap-x-3 gap-y-0.5 text-sm">
      {roles.roles.map((row) => (
        <div key={row.role} className="contents">
          <dt className="font-semibold">{row.role}</dt>
          <dd className="text-ink-soft">{row.duty}</dd>
        </div>
      ))}
      {roles.own.map((row) => (
        <div key={row.id} className="contents">
          <dt>
            <button
              type="button"
              className="text-left font-semibold underline"
              onClick={() => onChoose(row.id)}
            >
              {row.name}
            </button>
          </dt>
          <dd className="text-ink-soft">
            <Own row={row} />
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Own({ row }: { row: SchemaOwnRoleOut }) {
  const company = useCompany().data;
  const said = [row.duty, company ? reachOf(row, company) : '', holdersOf(row)].filter(Boolean);
  return <>{said.join('; ')}</>;
}

const holdersOf = (row: SchemaOwnRoleOut) =>
  row.holders.length > 0 ? `held by ${row.holders.join(', ')}` : 'nobody has it yet';

interface Column {
  name: string;
  actions: SchemaAction[];
}

const columnsOf = (roles: SchemaRolesOut): Column[] => [
  ...roles.roles.map((row) => ({ name: row.role, actions: row.actions })),
  ...roles.own.map((row) => ({ name: row.name, actions: row.actions })),
];

function Matrix({ deeds, columns }: { deeds: SchemaDeedOut[]; columns: Column[] }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b border-hairline text-left">
            <th scope="col" className="min-w-72 font-semibold">
              May
            </th>
            {columns.map((column) => (
              <th
                key={column.name}
                scope="col"
                title={column.name}
                className="max-w-24 min-w-20 px-1 text-center align-bottom text-xs font-semibold"
              >
                {column.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {deeds.map((deed) => (
            <tr key={deed.action} className="border-b border-hairline">
              <th scope="row" className="py-0.5 text-left font-normal">
                {deed.words}
              </th>
              {columns.map((column) => (
                <td key={column.name} className="text-center">
                  {column.actions.includes(deed.action) ? (
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
    </div>
  );
}
