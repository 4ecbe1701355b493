import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaOfferOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { window_ } from '@/shared/time';
import { ANY_TIME, wishIn, type Window } from './model';
import { OfferList } from './OfferList';
import { usePromiseVisit, useVisitOffers } from './queries';

interface Props {
  visitId: number;
  version: number;
  onPromised?: () => void;
}

/** The window that is kept best for a visit that waits, and the others: one press promises it to the customer. */
export function OfferTime({ visitId, version, onPromised }: Props) {
  const [wish, setWish] = useState(ANY_TIME);
  const [byTime, setByTime] = useState(false);
  const [more, setMore] = useState(false);
  const [all, setAll] = useState(false);
  const [chosen, setChosen] = useState<Window | null>(null);
  const offers = useVisitOffers(visitId, wishIn(wish), true);
  const best = offers.data?.offers[0];
  const window = chosen ?? best;
  const listed = all || (offers.data && !best) || offers.isError;
  return (
    <div className="w-full space-y-1 border-l-2 border-copper pl-2">
      {!listed && (
        <p className="text-sm" role="status">
          {best ? <Proposed offer={best} /> : 'Looking for a window that can be kept…'}
        </p>
      )}
      {listed && (
        <OfferList
          answer={offers.data}
          asking={offers.isFetching}
          error={offers.error}
          {...{ wish, byTime, more }}
          onWish={(next) => {
            setWish(next);
            setChosen(null); // what suited the old wish is not what is asked for now
          }}
          onByTime={setByTime}
          onMore={() => setMore(true)}
          taken={window ?? null}
          onTake={setChosen}
        />
      )}
      {window && (
        <Promising
          {...{ visitId, version, window, onPromised }}
          offers={offers.data?.offers ?? []}
          onOther={listed ? null : () => setAll(true)}
        />
      )}
    </div>
  );
}

/** The best window with its reasons. */
function Proposed({ offer }: { offer: SchemaOfferOut }) {
  return (
    <>
      We can come <b className="figures">{window_(offer)}</b>: {offer.reasons.slice(0, 3).join(' · ')}
    </>
  );
}

type PromisingProps = Props & { window: Window; offers: SchemaOfferOut[]; onOther: (() => void) | null };

/** Promise it, with or without a message, with or without giving the visit to whoever makes it possible. */
function Promising({ visitId, version, window, offers, onPromised, onOther }: PromisingProps) {
  const promise = usePromiseVisit(visitId);
  const [tell, setTell] = useState(true);
  const [assign, setAssign] = useState(false);
  const canPlan = may(useSession(), 'plan');
  const offer = offers.find(({ start, end }) => start === window.start && end === window.end);
  const moves = (offer?.moves.length ?? 0) > 0;
  const words = window_(window);
  const take = () =>
    promise.mutate(
      { version, window: { start: window.start, end: window.end }, assign, tell },
      {
        onSuccess: () => {
          toast.success(`Promised ${words}`);
          onPromised?.();
        },
      },
    );
  return (
    <div className="flex flex-wrap items-center gap-3 text-sm">
      <Button rank="main" disabled={promise.isPending} onClick={take}>
        Promise {words}
      </Button>
      {onOther && <Button onClick={onOther}>Other times</Button>}
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={tell} onChange={(event) => setTell(event.target.checked)} />
        Write it to the customer
      </label>
      {canPlan && !moves && (
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={assign} onChange={(event) => setAssign(event.target.checked)} />
          Give it to {offer?.technicians.map(({ name }) => name).join(' and ') || 'the technician'} at once
        </label>
      )}
      {moves && <b className="text-warn">Other work moves; it is placed at once.</b>}
      {promise.isError && <Notice tone="bad">{sentenceOf(promise.error)}</Notice>}
    </div>
  );
}
