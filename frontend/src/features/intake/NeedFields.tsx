import { zodResolver } from '@hookform/resolvers/zod';
import { useNavigate } from '@tanstack/react-router';
import { useForm, useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaSiteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField, TextArea, TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { serverNow } from '@/shared/clock';
import { SkillsField } from '@/features/people';
import { addDays, isoDay } from '@/shared/time';
import { useMakeOrder, useTakeRequest } from './commands';
import { EMPTY, filledFrom, needForm, toRequest, type Caller, type NeedForm } from './model';
import { useJobTypes } from './queries';

interface Props {
  caller: Caller;
  site: SchemaSiteOut | null;
  onSaved: () => void;
}

export function NeedFields({ caller, site, onSaved }: Props) {
  const form = useForm<NeedForm>({ resolver: zodResolver(needForm), defaultValues: EMPTY });
  const { register, setValue, handleSubmit, formState, control } = form;
  const { errors } = formState;
  const jobs = useJobTypes();
  const [jobTypeId, needs] = useWatch({ control, name: ['jobTypeId', 'needs'] });
  const job = jobs.data?.find((row) => row.id === jobTypeId);
  const take = useTakeRequest();
  const order = useMakeOrder();
  const navigate = useNavigate();
  const ready = caller.kind === 'known' && site !== null;

  const save = async (values: NeedForm, andOrder: boolean) => {
    if (caller.kind !== 'known' || site === null) return;
    const request = await take.mutateAsync(toRequest({ ...values, assetId: caller.assetId }, site.id));
    if (!andOrder) {
      toast.success(`${request.number} kept. It waits at the right.`);
    } else {
      const made = await order.mutateAsync(request);
      const visit = made.visit_ids[0];
      toast.success(`${made.number} is in the backlog`, {
        action: {
          label: 'Show on the board',
          onClick: () => void navigate({ to: '/board', search: { visit } }),
        },
      });
    }
    onSaved();
  };
  const submit = (andOrder: boolean) => handleSubmit((values) => save(values, andOrder).catch(() => {}));

  const chooseJob = (id: number | null) => {
    setValue('jobTypeId', id);
    const chosen = jobs.data?.find((row) => row.id === id);
    if (!chosen) return;
    const filled = filledFrom(chosen);
    setValue('length', filled.length, { shouldValidate: true });
    setValue('priority', filled.priority);
    setValue('needs', filled.needs);
  };

  const today = isoDay(serverNow());
  const promise = (day: string, from: string, until: string) => {
    setValue('promiseDay', day);
    setValue('promiseFrom', from);
    setValue('promiseTo', until, { shouldValidate: true });
  };
  const failure = take.error ?? order.error;
  return (
    <form onSubmit={submit(true)} className="space-y-3" aria-label="Request">
      <TextArea
        label="What is wrong, in the caller's words"
        rows={3}
        {...register('whatIsWrong')}
        error={errors.whatIsWrong?.message}
      />
      <SelectField
        label="Job type"
        value={jobTypeId ?? ''}
        onChange={(event) => chooseJob(event.target.value ? Number(event.target.value) : null)}
        hint={job?.advice}
      >
        <option value="">none: describe it only</option>
        {(jobs.data ?? []).map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </SelectField>
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Length"
          placeholder="45 or 1:30"
          {...register('length')}
          error={errors.length?.message}
        />
        <SelectField label="Priority" {...register('priority', { valueAsNumber: true })}>
          <option value={1}>1, drop everything</option>
          <option value={2}>2, today</option>
          <option value={3}>3, soon</option>
          <option value={4}>4, as planned</option>
          <option value={5}>5, can wait</option>
        </SelectField>
      </div>
      <SkillsField needs={needs} onChange={(changed) => setValue('needs', changed)} />
      <fieldset>
        <legend className="mb-0.5 text-xs font-semibold text-ink-soft">Promise to the caller</legend>
        <div className="mb-1 flex flex-wrap gap-1.5">
          <Button onClick={() => promise(today, '14', '17')}>Today 14–17</Button>
          <Button onClick={() => promise(addDays(today, 1), '8', '10')}>Tomorrow 8–10</Button>
          <Button onClick={() => promise(addDays(today, 1), '12', '17')}>Tomorrow 12–17</Button>
          <Button rank="quiet" onClick={() => promise('', '', '')}>
            No promise
          </Button>
        </div>
        <div className="grid grid-cols-3 gap-2">
          <input aria-label="Promised day" type="date" className={BOX} {...register('promiseDay')} />
          <input
            aria-label="Promised from"
            className={BOX}
            placeholder="from, like 830"
            {...register('promiseFrom')}
          />
          <input
            aria-label="Promised until"
            className={BOX}
            placeholder="until, or +120"
            {...register('promiseTo')}
          />
        </div>
        {errors.promiseFrom && (
          <p role="alert" className="mt-0.5 text-xs text-bad">
            {errors.promiseFrom.message}
          </p>
        )}
        {site && site.area === null && (
          <p className="mt-1 text-sm font-semibold text-bad">
            This site lies outside every area: better promise nothing yet.
          </p>
        )}
      </fieldset>
      <div className="grid grid-cols-3 gap-2">
        <TextField label="Who to ask for" {...register('contactName')} />
        <TextField label="Their phone" type="tel" {...register('contactPhone')} />
        <SelectField label="Came by" {...register('source')}>
          {['phone', 'e-mail', 'web', 'walk-in', 'contract'].map((source) => (
            <option key={source}>{source}</option>
          ))}
        </SelectField>
      </div>
      {failure && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
      <div className="flex items-center gap-2 border-t border-hairline pt-3">
        <Button type="submit" rank="main" disabled={!ready || take.isPending || order.isPending}>
          Make work order
        </Button>
        <Button disabled={!ready || take.isPending} onClick={() => void submit(false)()}>
          Keep as request
        </Button>
        {!ready && <span className="text-sm text-ink-soft">Choose the customer and the site first.</span>}
      </div>
    </form>
  );
}

const BOX = 'w-full rounded-sm border border-hairline bg-sheet px-2 py-1.5';
