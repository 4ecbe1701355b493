import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { Problem } from '@/api/client';
import type { SchemaCustomerDetailOut } from '@/api/types';
import { Form, useKeptForm } from '@/design/form';
import { useTags } from '@/features/company';
import { useJobTypes } from '@/features/catalogue';
import { isWhole, typedLine, useCurrency, useFigures, type TypedSet } from '@/features/pricing';
import { useMakeOneOff } from '../commands';
import { DetailsFields } from '../DetailsFields';
import { NO_DETAILS, type Details } from '../model';
import { useOrderQuestions, useOneOffRead } from '../queries';
import { Amounts } from './Amounts';
import { askedOf, EMPTY_JOB, filledByJob, jobSchema, oneOffIn, type TypedJob } from './model';
import { MakeBar, WhatIsDone, WhoAndWhen } from './parts';

type Site = SchemaCustomerDetailOut['sites'][number];

interface Props {
  customer: SchemaCustomerDetailOut;
  site: Site;
  assetId: number | null;
}

/** What is typed, and what would become of it. */
function useOneOff({ site, assetId }: Props) {
  const navigate = useNavigate();
  const currency = useCurrency();
  const make = useMakeOneOff();
  // The same order however often it is sent.
  const [once] = useState(() => crypto.randomUUID());
  const [asset, setAsset] = useState(assetId);
  const [jobTypeId, setJobTypeId] = useState<number | null>(null);
  const [details, setDetails] = useState<Details>(NO_DETAILS);
  const [lines, setLines] = useState<TypedSet | null>(null);
  const job = useJobTypes().data?.find((row) => row.id === jobTypeId);
  const said = { siteId: site.id, assetId: asset, jobTypeId, details, lines, currency };
  const kept = useKeptForm<TypedJob, TypedJob>({
    schema: jobSchema,
    values: EMPTY_JOB,
    keep: async (typed) => {
      const body = oneOffIn({ ...said, typed });
      if (body === null) return;
      const made = await make.mutateAsync({ body, key: once });
      toast.success(`${made.number} is in the backlog`);
      void navigate({ to: '/orders/$orderId', params: { orderId: String(made.id) } });
    },
  });
  const typed = useWatch({ control: kept.form.control }) as TypedJob;
  const becomes = useOneOffRead(askedOf(oneOffIn({ ...said, typed, lines: null })));
  const usual = (becomes.data?.lines ?? []).map((line) => typedLine(line, currency));
  const shown = lines ?? { lines: usual, discounts: [] };
  const asked = { customerId: becomes.data?.buyer_id ?? null, jobTypeId, currency };
  const figures = useFigures({ ...asked, sets: [shown] });
  const chooseJob = (id: number | null, found: typeof job) => {
    setJobTypeId(id);
    if (!found) return;
    for (const [name, value] of Object.entries(filledByJob(found)))
      kept.form.setValue(name as keyof TypedJob, value, { shouldValidate: true });
  };
  return {
    ...{ kept, typed, becomes, asset, setAsset, job, jobTypeId, chooseJob },
    ...{ details, setDetails, lines, setLines, shown, asked, figures },
    ready: lines === null || isWhole(lines, currency),
  };
}

export type OneOff = ReturnType<typeof useOneOff>;

export function OneOffForm(props: Props) {
  const { customer, site } = props;
  const one = useOneOff(props);
  const tags = useTags().data ?? [];
  const questions = useOrderQuestions(one.job);
  const { refusal } = one.kept;
  return (
    <Form kept={one.kept} label="One-off job" className="space-y-3">
      <div className="grid gap-x-6 gap-y-3 xl:grid-cols-[minmax(0,5fr)_minmax(0,7fr)]">
        <div className="space-y-2.5">
          <WhatIsDone one={one} assets={site.assets} />
          <WhoAndWhen one={one} />
          <DetailsFields
            details={one.details}
            onChange={one.setDetails}
            questions={questions}
            needsPo={customer.needs_po_number}
            tags={tags}
            open={refusal instanceof Problem && refusal.field.startsWith('extra')}
            withoutTexts
          />
        </div>
        <Amounts one={one} />
      </div>
      <MakeBar one={one} />
    </Form>
  );
}
