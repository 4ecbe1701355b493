import type { ReactNode } from 'react';
import { DayField } from '@/design/DayField';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { useJobTypes } from '@/features/catalogue';
import { useCompany, useRecordFields, useTags } from '@/features/company';
import { CustomerPicker, useCustomer } from '@/features/customers';
import { Views } from '@/features/orders';
import { useSkills } from '@/features/people';
import { STATE_WORDS } from '@/shared/signs';
import type { Question } from '@/shared/questions';
import { BACKLOG_SORTS, WAITING_STATES, waitingSearch, type WaitingSearch } from '../search';

const SORT_WORDS: Record<(typeof BACKLOG_SORTS)[number], string> = {
  pressing: 'Most pressing',
  priority: 'Priority',
  due: 'Due first',
  newest: 'Newest',
  oldest: 'Oldest',
  longest: 'Longest',
  shortest: 'Shortest',
  worth: 'Worth most',
  nearest: 'Nearest',
};

/** How many filters are set; the order and the split are none. */
export function filtersSet(waiting: WaitingSearch): number {
  const rest = Object.entries(waiting).filter(([name]) => !NO_FILTERS.has(name));
  return rest.filter(([, value]) => value !== undefined && !isEmpty(value)).length;
}

/** The split and the order hide nothing; a point is one filter, not three. */
const NO_FILTERS: ReadonlySet<string> = new Set(['reason', 'sort', 'lat', 'metres']);

const isEmpty = (value: unknown) =>
  value === '' || (typeof value === 'object' && value !== null && Object.keys(value).length === 0);

interface Props {
  waiting: WaitingSearch;
  near: { lon: number; lat: number; label: string } | null;
  onChange: (waiting: WaitingSearch) => void;
  onClose: () => void;
}

interface Fields {
  waiting: WaitingSearch;
  set: (changes: Partial<WaitingSearch>) => void;
}

/** Everything the backlog can be narrowed by, and saved views of it. */
export function BacklogFilters({ waiting, near, onChange, onClose }: Props) {
  const set = (changes: Partial<WaitingSearch>) => onChange({ ...waiting, ...changes });
  const fields = { waiting, set };
  return (
    <div
      aria-label="Filters of the backlog"
      role="group"
      className="max-h-[55%] space-y-2 overflow-y-auto border-b border-hairline p-2 text-sm"
    >
      <OrderAndPriority {...fields} />
      <AreaAndJob {...fields} />
      <SkillAndDay {...fields} />
      <TagAndPlace {...fields} near={near} />
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={waiting.unpromised ?? false}
          onChange={(e) => set({ unpromised: e.target.checked || undefined })}
        />
        Only where nothing is promised
      </label>
      <StateAndCustomer {...fields} />
      <OwnFields {...fields} />
      <Views
        page="backlog"
        all="The whole backlog"
        query={waiting}
        onShow={(query) => onChange(waitingSearch.parse(query))}
      />
      <div className="flex gap-2">
        <Button onClick={() => onChange({})}>Remove all filters</Button>
        <Button rank="quiet" onClick={onClose}>
          Close
        </Button>
      </div>
    </div>
  );
}

function OrderAndPriority({ waiting, set }: Fields) {
  return (
    <Pair>
      <SelectField
        label="In order"
        value={waiting.sort ?? 'pressing'}
        onChange={(e) => set({ sort: e.target.value as WaitingSearch['sort'] })}
      >
        {BACKLOG_SORTS.filter((key) => key !== 'nearest' || hasPoint(waiting)).map((key) => (
          <option key={key} value={key}>
            {SORT_WORDS[key]}
          </option>
        ))}
      </SelectField>
      <SelectField
        label="Priority"
        value={waiting.priorities?.length ?? 0}
        onChange={(e) => {
          const least = Number(e.target.value);
          set({ priorities: least ? Array.from({ length: least }, (_, index) => index + 1) : undefined });
        }}
      >
        <option value={0}>any</option>
        {[1, 2, 3, 4].map((level) => (
          <option key={level} value={level}>
            {level === 1 ? '1 only' : `1 to ${level}`}
          </option>
        ))}
      </SelectField>
    </Pair>
  );
}

function AreaAndJob({ waiting, set }: Fields) {
  const jobs = useJobTypes(true);
  const company = useCompany();
  return (
    <Pair>
      <OneMore
        label="Area"
        chosen={waiting.area_ids ?? []}
        options={(company.data?.areas ?? []).map((area) => ({ value: area.id, words: area.name }))}
        onChoose={(area_ids) => set({ area_ids })}
      />
      <OneMore
        label="Job type"
        chosen={waiting.job_type_ids ?? []}
        options={(jobs.data ?? []).map((job) => ({ value: job.id, words: job.name }))}
        onChoose={(job_type_ids) => set({ job_type_ids })}
      />
    </Pair>
  );
}

function SkillAndDay({ waiting, set }: Fields) {
  const skills = useSkills();
  return (
    <Pair>
      <SelectField
        label="Needs the skill"
        value={waiting.skill ?? ''}
        onChange={(e) => set({ skill: e.target.value || undefined })}
      >
        <option value="">any</option>
        {(skills.data ?? []).map((skill) => (
          <option key={skill.code} value={skill.code}>
            {skill.name}
          </option>
        ))}
      </SelectField>
      <DayField
        label="Due or promised by"
        value={waiting.due_by ?? ''}
        onChange={(day) => set({ due_by: day || undefined })}
      />
    </Pair>
  );
}

function TagAndPlace({ waiting, set, near }: Fields & Pick<Props, 'near'>) {
  const tags = useTags().data ?? [];
  const from = hasPoint(waiting);
  const within = (metres: number | undefined) => {
    const point = near ?? { lon: waiting.lon!, lat: waiting.lat! };
    const { lon, lat } = metres ? point : { lon: undefined, lat: undefined };
    set({ lon, lat, metres });
  };
  return (
    <Pair>
      <SelectField
        label="Tag"
        value={waiting.tag ?? ''}
        onChange={(e) => set({ tag: e.target.value || undefined })}
      >
        <option value="">any</option>
        {tags.map((tag) => (
          <option key={tag.code} value={tag.code}>
            {tag.name}
          </option>
        ))}
      </SelectField>
      <SelectField
        label={near ? `Near ${near.label}` : 'Near the selected visit'}
        disabled={!near && !from}
        value={from ? (waiting.metres ?? '') : ''}
        onChange={(e) => within(Number(e.target.value) || undefined)}
      >
        <option value="">anywhere</option>
        {[1, 2, 3, 5, 10].map((km) => (
          <option key={km} value={km * 1000}>
            within {km} km
          </option>
        ))}
      </SelectField>
    </Pair>
  );
}

function StateAndCustomer({ waiting, set }: Fields) {
  const customer = useCustomer(waiting.customer_id ?? null);
  return (
    <>
      <SelectField
        label="State"
        value={waiting.states?.[0] ?? ''}
        onChange={(e) => set({ states: e.target.value ? [e.target.value as WaitingState] : undefined })}
      >
        <option value="">any</option>
        {WAITING_STATES.map((state) => (
          <option key={state} value={state}>
            {state === 'open' ? 'open: no place yet' : `${STATE_WORDS[state]}, and on standby`}
          </option>
        ))}
      </SelectField>
      <CustomerPicker
        label="Customer"
        chosen={waiting.customer_id ? { id: waiting.customer_id, name: customer.data?.name ?? '…' } : null}
        onChoose={(row) => set({ customer_id: row?.id })}
      />
    </>
  );
}

/** Fields of the company's own that have a few answers. */
function OwnFields(fields: Fields) {
  const own = useRecordFields();
  const questions = (own.data?.find((row) => row.record === 'order')?.questions ??
    []) as unknown as Question[];
  return questions
    .filter((question) => question.kind === 'choice' || question.kind === 'yes_no')
    .map((question) => <OwnField key={question.key} question={question} {...fields} />);
}

const hasPoint = ({ lon, lat }: WaitingSearch) => lon !== undefined && lat !== undefined;

type WaitingState = (typeof WAITING_STATES)[number];

const Pair = ({ children }: { children: ReactNode }) => (
  <div className="grid grid-cols-2 gap-2">{children}</div>
);

interface OneMoreProps<T> {
  label: string;
  chosen: T[];
  options: { value: T; words: string }[];
  onChoose: (values: T[]) => void;
}

/** Several of one kind: each choice is added; what is chosen stands above, and is taken away there. */
function OneMore<T extends string | number>({ label, chosen, options, onChoose }: OneMoreProps<T>) {
  const rest = options.filter((option) => !chosen.includes(option.value));
  return (
    <SelectField
      label={label}
      value=""
      onChange={(e) => {
        const option = rest.find((row) => String(row.value) === e.target.value);
        if (option) onChoose([...chosen, option.value]);
      }}
    >
      <option value="">{chosen.length > 0 ? 'or…' : 'any'}</option>
      {rest.map((option) => (
        <option key={option.value} value={option.value}>
          {option.words}
        </option>
      ))}
    </SelectField>
  );
}

/** A field of the company's own that has a few answers. */
function OwnField({ question, waiting, set }: Fields & { question: Question }) {
  const value = waiting.extra?.[question.key];
  const answers = question.kind === 'choice' ? (question.choices ?? []) : ['yes', 'no'];
  return (
    <SelectField
      label={question.label}
      value={value === undefined ? '' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value)}
      onChange={(e) => {
        const extra = { ...waiting.extra };
        delete extra[question.key];
        if (e.target.value)
          extra[question.key] = question.kind === 'choice' ? e.target.value : e.target.value === 'yes';
        set({ extra: Object.keys(extra).length > 0 ? extra : undefined });
      }}
    >
      <option value="">any</option>
      {answers.map((answer) => (
        <option key={answer}>{answer}</option>
      ))}
    </SelectField>
  );
}
