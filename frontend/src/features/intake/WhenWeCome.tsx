import { sentenceOf } from '@/api/client';
import type { SchemaCustomerDetailOut, SchemaSiteOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { OfferList } from '@/features/appointments';
import { may, useSession } from '@/features/people';
import { PriceTold } from './PriceTold';
import { OtherTime, StandbyFields, TellCustomer } from './PromiseFields';
import type { Need } from './useNeed';

interface Props {
  need: Need;
  site: SchemaSiteOut | null;
  customer: SchemaCustomerDetailOut | undefined;
}

/** Windows that can be kept, one that is typed, standby, and what the customer is told. */
export function WhenWeCome({ need, site, customer }: Props) {
  const { promise, form, values, failure, gone } = need;
  const { window } = promise;
  const canPlan = may(useSession(), 'plan');
  return (
    <section aria-label="When we come" className="space-y-1 rounded-sm bg-wash p-2">
      <h3 className="text-xs font-semibold text-ink-soft">
        When we come <span className="font-normal">· Alt+1 to Alt+9 takes a window</span>
      </h3>
      <Offered need={need} />
      {site && site.area === null && (
        <p className="mt-1 text-sm font-semibold text-bad">
          This site lies outside every area: better promise nothing yet.
        </p>
      )}
      <OtherTime
        register={form.register}
        day={values.promiseDay}
        onDay={(day) => form.setValue('promiseDay', day)}
        error={form.formState.errors.promiseFrom?.message}
      />
      {gone && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
      <PriceTold need={need} site={site} />
      {window && canPlan && (
        <label className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            checked={promise.assign}
            onChange={(event) => promise.setAssign(event.target.checked)}
          />
          Give it to the technician who makes it possible at once
        </label>
      )}
      <StandbyFields standby={promise.standby} onChange={promise.setStandby} />
      <TellCustomer
        tell={promise.tell}
        onTell={promise.setTell}
        window={window}
        site={site}
        customer={customer}
        job={need.job?.name ?? ''}
      />
    </section>
  );
}

function Offered({ need }: { need: Need }) {
  const { promise, ready } = need;
  if (!promise.askable)
    return (
      <p className="text-sm text-ink-soft">
        {ready
          ? 'Choose a job type or give a length: then the windows that can be kept are listed here.'
          : 'First the customer and the site.'}
      </p>
    );
  return (
    <OfferList
      keyed
      answer={promise.answer}
      asking={promise.offers.isFetching}
      error={promise.offers.error}
      wish={promise.wish}
      onWish={promise.setWish}
      byTime={promise.byTime}
      onByTime={promise.setByTime}
      more={promise.more}
      onMore={() => promise.setMore(true)}
      taken={promise.chosen}
      onTake={promise.setChosen}
    />
  );
}
