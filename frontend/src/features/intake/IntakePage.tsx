import { useNavigate, useSearch } from '@tanstack/react-router';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaRequestDetailOut, SchemaSiteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { RegionMap, type PickedPlace } from '@/features/roads';
import { CallerSearch } from './CallerSearch';
import { CustomerCard } from './CustomerCard';
import { beginCall, DraftOf, dropDraft, keyOf, putBack, useDraft, useDrafts, useKept } from './drafts';
import type { Caller } from './model';
import { NeedFields } from './NeedFields';
import { NewCustomer } from './NewCustomer';
import { useExpectOffers } from '@/features/appointments';
import { useRequest } from './queries';
import { UnfinishedCalls } from './UnfinishedCalls';
import { WaitingRequests } from './WaitingRequests';

/** One call on one page: who, where, what is wrong, what was promised. */
export function IntakePage() {
  const { request: requestId, customer, site } = useSearch({ from: '/office/intake' });
  const who = useSession().account?.email ?? '';
  const request = useRequest(requestId ?? null);
  // Begun anew after each call: what is typed belongs to one.
  const [round, setRound] = useState(0);
  const key = keyOf(requestId ?? null, customer ?? null);
  const draft = useMemo(() => ({ who, key }), [who, key]);
  if (request.isError) return <Notice tone="bad">{sentenceOf(request.error)}</Notice>;
  if (requestId !== undefined && !request.data) return <p className="p-4 text-ink-soft">Fetching…</p>;
  return (
    <DraftOf value={draft}>
      <Call
        key={`${key} ${round}`}
        request={request.data ?? null}
        customerId={customer ?? null}
        siteId={site ?? null}
        draft={draft}
        onAgain={() => setRound((value) => value + 1)}
      />
    </DraftOf>
  );
}

interface CallProps {
  request: SchemaRequestDetailOut | null;
  customerId: number | null;
  siteId: number | null;
  draft: { who: string; key: string };
  /** Begin with empty fields. */
  onAgain: () => void;
}

function startOf({ request, customerId, siteId }: Omit<CallProps, 'draft' | 'onAgain'>): Caller {
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

/** Who is calling and where, and the ways to begin anew. */
function useCall(props: CallProps) {
  const { draft, onAgain } = props;
  const navigate = useNavigate();
  const [caller, setCaller] = useDraft<Caller>('caller', () => startOf(props));
  const [site, setSite] = useState<SchemaSiteOut | null>(null);
  const [picked, setPicked] = useDraft<PickedPlace | null>('picked', null);
  const [adding, setAdding] = useState(false);
  useKept('title', site?.name ?? null, null);
  const restart = () => {
    beginCall();
    onAgain();
    void navigate({ to: '/intake', search: {} });
  };
  const sent = () => {
    dropDraft(draft.who, draft.key);
    restart();
  };
  const throwAway = () => {
    const gone = dropDraft(draft.who, draft.key);
    restart();
    if (gone) toast('Thrown away', { action: { label: 'Undo', onClick: () => putBack(draft.who, gone) } });
  };
  const other = () => {
    setCaller({ kind: 'unknown' });
    setSite(null);
    setPicked(null);
    setAdding(false);
  };
  return {
    ...{ caller, setCaller, site, setSite, picked, setPicked, adding, setAdding },
    ...{ restart, sent, throwAway, other },
  };
}

type CallState = ReturnType<typeof useCall>;

function Call(props: CallProps) {
  const { request, draft } = props;
  const canTake = may(useSession(), 'take_requests');
  useExpectOffers(canTake);
  const call = useCall(props);
  const begun = useDrafts(draft.who).some((row) => row.key === draft.key);
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_300px]">
      <div className="min-h-0 overflow-y-auto px-4 pt-3">
        {canTake ? (
          <div className="grid max-w-6xl gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,5fr)_minmax(0,7fr)]">
            <WhoAndWhere call={call} request={request} begun={begun} />
            <div>
              <h2 className="mb-2 text-lg font-semibold">What do they need?</h2>
              <NeedFields caller={call.caller} site={call.site} request={request} onSaved={call.sent} />
            </div>
          </div>
        ) : (
          <p className="text-ink-soft">Your role sees requests and does not take them.</p>
        )}
      </div>
      <aside className="flex min-h-0 flex-col border-l border-hairline bg-sheet">
        <PlaceOnMap call={call} />
        <UnfinishedCalls who={draft.who} current={draft.key} />
        <WaitingRequests />
      </aside>
    </div>
  );
}

interface WhoProps {
  call: CallState;
  request: SchemaRequestDetailOut | null;
  /** Something was filled in already. */
  begun: boolean;
}

function WhoAndWhere({ call, request, begun }: WhoProps) {
  const { caller, setCaller } = call;
  const known = (customerId: number, siteId: number | null) =>
    setCaller({ kind: 'known', customerId, siteId, assetId: null });
  return (
    <div className="space-y-3">
      <div className="flex min-h-8 items-center justify-between gap-2">
        <h1 className="text-lg font-semibold">
          {request ? `${request.number}: who and where?` : 'Who is calling, and for which site?'}
        </h1>
        {begun && (
          <span className="flex whitespace-nowrap">
            <Button rank="quiet" title="It stays among those begun and not sent" onClick={call.restart}>
              Another call
            </Button>
            <Button rank="quiet" onClick={call.throwAway}>
              Throw away
            </Button>
          </span>
        )}
      </div>
      {request && <Sender request={request} />}
      {caller.kind === 'unknown' && <CallerSearch onChoose={setCaller} />}
      {caller.kind === 'new' && (
        <NewCustomer
          typed={caller.typed}
          picked={call.picked}
          onPick={call.setPicked}
          onCancel={call.other}
          onKnown={(customerId) => known(customerId, null)}
          onMade={known}
        />
      )}
      {caller.kind === 'known' && (
        <CustomerCard
          requestId={request?.id ?? null}
          caller={caller}
          picked={call.picked}
          adding={call.adding}
          onAdding={call.setAdding}
          onPick={call.setPicked}
          onSite={call.setSite}
          onChange={setCaller}
          onOther={call.other}
        />
      )}
    </div>
  );
}

/** Where the site is; while a new one is put in, the place is picked here. */
function PlaceOnMap({ call }: { call: CallState }) {
  const { caller, adding, picked, site } = call;
  const needsPlace = caller.kind === 'new' || adding;
  const place = needsPlace
    ? picked && { ...picked, label: picked.address }
    : site && { ...site, label: site.name };
  if (!place && !needsPlace) return null;
  return (
    <div className="h-52 shrink-0 border-b border-hairline">
      <RegionMap
        label="Map of the site"
        marks={place ? [{ lon: place.lon, lat: place.lat, label: place.label }] : []}
        onPick={needsPlace ? call.setPicked : undefined}
      />
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
