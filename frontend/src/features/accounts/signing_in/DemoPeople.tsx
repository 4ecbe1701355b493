import { useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';

const DUTIES: Record<string, string> = {
  dispatcher: 'plans the day on the board',
  technician: 'works from a phone',
  intake: 'takes the calls',
  manager: 'sees, plans and sets up',
  reviewer: 'checks what was done',
  administrator: 'may do everything',
};

interface Props {
  busy: boolean;
  onChoose: (email: string, password: string) => void;
}

/** The made-up people of the demo, to sign in with one press. */
export function DemoPeople({ busy, onChoose }: Props) {
  const demo = useQuery({ queryKey: ['demo'], queryFn: () => data(api.GET('/api/v1/session/demo')) });
  if (!demo.data) return null;
  const { accounts, password } = demo.data;
  return (
    <section aria-labelledby="demo-people">
      <h2 id="demo-people" className="text-lg font-semibold">
        The people of the demo
      </h2>
      <p className="mt-1 text-sm text-ink-soft">
        Hallam &amp; Reyne look after the lifts and doors of Varnholm. Choose who you are; the password is{' '}
        <span className="figures">{password}</span>.
      </p>
      <ul className="mt-3 divide-y divide-hairline border-y border-hairline">
        {accounts.map((account) => (
          <li key={account.email}>
            <button
              type="button"
              disabled={busy}
              onClick={() => onChoose(account.email, password)}
              className="flex w-full items-baseline justify-between gap-4 px-2 py-2.5 text-left hover:bg-wash"
            >
              <span className="font-semibold">{account.name}</span>
              <span className="text-sm text-ink-soft">
                {account.role}, {DUTIES[account.role]}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
