import { useState } from 'react';
import type { SchemaSiteOut } from '@/api/types';
import { may, useSession } from '@/features/people';
import { RegionMap } from '@/features/roads';
import { CallerSearch } from './CallerSearch';
import { CustomerCard } from './CustomerCard';
import { NeedFields } from './NeedFields';
import { NewCustomer } from './NewCustomer';
import type { Caller, PickedPlace } from './model';
import { WaitingRequests } from './WaitingRequests';

/** One call on one page: who, where, what is wrong, what was promised. */
export function IntakePage() {
  const canTake = may(useSession(), 'take_requests');
  const [caller, setCaller] = useState<Caller>({ kind: 'unknown' });
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
  };
  const needsPlace = caller.kind === 'new' || adding;
  const place = needsPlace
    ? picked && { ...picked, label: picked.address }
    : site && { ...site, label: site.name };
  const mark = place && { lon: place.lon, lat: place.lat, label: place.label };
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_340px]">
      <div className="min-h-0 overflow-y-auto p-4" key={round}>
        {canTake ? (
          <div className="grid max-w-5xl gap-x-6 gap-y-4 lg:grid-cols-2">
            <div className="space-y-4">
              <h1 className="text-lg font-semibold">Who is calling, and for which site?</h1>
              {caller.kind === 'unknown' && <CallerSearch onChoose={setCaller} />}
              {caller.kind === 'new' && (
                <NewCustomer
                  typed={caller.typed}
                  picked={picked}
                  onPick={setPicked}
                  onCancel={restart}
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
                  onOther={restart}
                />
              )}
            </div>
            <div className="space-y-4">
              <h2 className="text-lg font-semibold">What do they need?</h2>
              <NeedFields caller={caller} site={site} onSaved={restart} />
            </div>
          </div>
        ) : (
          <p className="text-ink-soft">Your role sees requests and does not take them.</p>
        )}
      </div>
      <aside className="flex min-h-0 flex-col border-l border-hairline bg-sheet">
        <div className="h-64 shrink-0 border-b border-hairline">
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
