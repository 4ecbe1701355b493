import { useNavigate, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import type { SchemaRequestDetailOut, SchemaSiteOut } from '@/api/types';
import { may, useSession } from '@/features/people';
import { RegionMap, type PickedPlace } from '@/features/roads';
import { CallerSearch } from './CallerSearch';
import { CustomerCard } from './CustomerCard';
import type { Caller } from './model';
import { NeedFields } from './NeedFields';
import { NewCustomer } from './NewCustomer';
import { useExpectOffers, useRequest } from './queries';
import { WaitingRequests } from './WaitingRequests';

/** One call on one page: who, where, what is wrong, what was promised. */
export function IntakePage() {
  const { request: requestId, customer, site } = useSearch({ from: '/office/intake' });
  const request = useRequest(requestId ?? null);
  if (requestId !== undefined && !request.data) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return (
    <Call
      key={`${requestId ?? ''} ${customer ?? ''}`}
      request={request.data ?? null}
      customerId={customer ?? null}
      siteId={site ?? null}
    />
  );
}

interface CallProps {
  request: SchemaRequestDetailOut | null;
  customerId: number | null;
  siteId: number | null;
}

function startOf({ request, customerId, siteId }: CallProps): Caller {
  if (request?.customer)
    return {
      kind: 'known',
      customerId: request.customer.id,
      siteId: request.site?.id ?? null,
      assetId: request.asset?.id ?? null,
    };
  if (customerId !== null) return { kind: 'known', customerId, siteId, assetId: null };
  return { kind: 'unknown' };
}

function Call(props: CallProps) {
  const { request } = props;
  const canTake = may(useSession(), 'take_requests');
  useExpectOffers(canTake);
  const navigate = useNavigate();
  const [caller, setCaller] = useState<Caller>(() => startOf(props));
  const [site, setSite] = useState<SchemaSiteOut | null>(null);
  const [picked, setPicked] = useState<PickedPlace | null>(null);
  const [adding, setAdding] = useState(false);
  const [round, setRound] = useState(0);
  const restart = () => {
    setCaller({ kind: 'unknown' });
    setSite(null);
    setPicked(null);
    setAdding(false);
    setRound((value) => value + 1);
    void navigate({ to: '/intake', search: {} });
  };
  const other = () => {
    setCaller({ kind: 'unknown' });
    setSite(null);
    setPicked(null);
    setAdding(false);
  };
  const needsPlace = caller.kind === 'new' || adding;
  const place = needsPlace
    ? picked && { ...picked, label: picked.address }
    : site && { ...site, label: site.name };
  const mark = place && { lon: place.lon, lat: place.lat, label: place.label };
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_300px]">
      <div className="min-h-0 overflow-y-auto px-4 pt-3" key={round}>
        {canTake ? (
          <div className="grid max-w-6xl gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,5fr)_minmax(0,7fr)]">
            <div className="space-y-3">
              <h1 className="text-lg font-semibold">
                {request ? `${request.number}: who and where?` : 'Who is calling, and for which site?'}
              </h1>
              {request && <Sender request={request} />}
              {caller.kind === 'unknown' && <CallerSearch onChoose={setCaller} />}
              {caller.kind === 'new' && (
                <NewCustomer
                  typed={caller.typed}
                  picked={picked}
                  onPick={setPicked}
                  onCancel={other}
                  onKnown={(customerId) =>
                    setCaller({ kind: 'known', customerId, siteId: null, assetId: null })
                  }
                  onMade={(customerId, siteId) =>
                    setCaller({ kind: 'known', customerId, siteId, assetId: null })
                  }
                />
              )}
              {caller.kind === 'known' && (
                <CustomerCard
                  caller={caller}
                  picked={picked}
                  adding={adding}
                  onAdding={setAdding}
                  onPick={setPicked}
                  onSite={setSite}
                  onChange={setCaller}
                  onOther={other}
                />
              )}
            </div>
            <div>
              <h2 className="mb-2 text-lg font-semibold">What do they need?</h2>
              <NeedFields caller={caller} site={site} request={request} onSaved={restart} />
            </div>
          </div>
        ) : (
          <p className="text-ink-soft">Your role sees requests and does not take them.</p>
        )}
      </div>
      <aside className="flex min-h-0 flex-col border-l border-hairline bg-sheet">
        <div className="h-52 shrink-0 border-b border-hairline">
          <RegionMap
            label="Map of Varnholm"
            marks={mark ? [mark] : []}
            onPick={needsPlace ? setPicked : undefined}
          />
        </div>
        <WaitingRequests />
      </aside>
    </div>
  );
}

/** What the sender of a request said about themselves. */
function Sender({ request }: { request: SchemaRequestDetailOut }) {
  const said = [request.from_name, request.from_phone, request.from_email, request.from_address];
  if (!said.some(Boolean)) return null;
  return (
    <p className="border-l-4 border-hairline pl-2 text-sm">
      <span className="text-ink-soft">By {request.channel}, from </span>
      {said.filter(Boolean).join(' · ')}
    </p>
  );
}
