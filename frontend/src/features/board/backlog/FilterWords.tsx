import { useSkillName } from '@/features/people';
import { X } from 'lucide-react';
import { useJobTypes } from '@/features/catalogue';
import { useCompany, useRecordFields, useTagWords } from '@/features/company';
import { useCustomer } from '@/features/customers';
import { STATE_WORDS } from '@/shared/signs';
import { dayName, moment } from '@/shared/time';
import type { WaitingSearch } from '../search';

interface Props {
  waiting: WaitingSearch;
  onChange: (waiting: WaitingSearch) => void;
}

interface Word {
  words: string;
  /** The filters without this one. */
  without: Partial<WaitingSearch>;
}

/** Each filter that is on, in words, and the way to take it away: nothing hides work unsaid. */
export function FilterWords({ waiting, onChange }: Props) {
  const words = useWords(waiting);
  if (words.length === 0) return null;
  return (
    <ul aria-label="Only what is" className="mt-1.5 flex flex-wrap gap-1 text-xs">
      {words.map((row, at) => (
        <li key={`${at} ${row.words}`}>
          <button
            type="button"
            className="flex min-h-6 items-center gap-1 rounded-sm border border-copper bg-copper-wash px-1.5"
            aria-label={`${row.words}: remove`}
            onClick={() => onChange({ ...waiting, ...row.without })}
          >
            {row.words} <X size={12} aria-hidden />
          </button>
        </li>
      ))}
    </ul>
  );
}

function useWords(waiting: WaitingSearch): Word[] {
  const jobs = useJobTypes(true).data ?? [];
  const own = useRecordFields().data?.find((row) => row.record === 'order')?.questions ?? [];
  const customer = useCustomer(waiting.customer_id ?? null).data;
  const skillName = useSkillName();
  const company = useCompany();
  const tagWords = useTagWords();
  const { priorities = [], area_ids = [], job_type_ids = [], states = [], extra = {} } = waiting;
  const found: Word[] = [];
  if (priorities.length > 0)
    found.push({ words: priorityWords(priorities), without: { priorities: undefined } });
  for (const id of area_ids)
    found.push({
      words: `in ${company.data?.areas.find((area) => area.id === id)?.name ?? 'one area'}`,
      without: { area_ids: less(area_ids, id) },
    });
  for (const id of job_type_ids)
    found.push({
      words: jobs.find((job) => job.id === id)?.name ?? 'one job type',
      without: { job_type_ids: less(job_type_ids, id) },
    });
  for (const state of states)
    found.push({ words: STATE_WORDS[state], without: { states: less(states, state) } });
  if (waiting.skill)
    found.push({ words: `needs ${skillName(waiting.skill)}`, without: { skill: undefined } });
  if (waiting.due_by)
    found.push({
      words: `due or promised by ${dayName(moment(waiting.due_by, 12 * 60))}`,
      without: { due_by: undefined },
    });
  if (waiting.tag) found.push({ words: `tag ${tagWords([waiting.tag])}`, without: { tag: undefined } });
  if (waiting.customer_id)
    found.push({ words: customer?.name ?? 'one customer', without: { customer_id: undefined } });
  if (waiting.unpromised) found.push({ words: 'nothing promised', without: { unpromised: undefined } });
  if (waiting.lon !== undefined)
    found.push({
      words: waiting.metres ? `within ${waiting.metres / 1000} km` : 'near a point',
      without: { lon: undefined, lat: undefined, metres: undefined, sort: undefined },
    });
  for (const [key, value] of Object.entries(extra)) {
    const label = own.find((question) => question.key === key)?.label ?? key;
    const rest = Object.fromEntries(Object.entries(extra).filter(([name]) => name !== key));
    found.push({
      words: `${String(label)}: ${value === true ? 'yes' : value === false ? 'no' : value}`,
      without: { extra: Object.keys(rest).length > 0 ? rest : undefined },
    });
  }
  return found;
}

function priorityWords(priorities: number[]): string {
  const last = Math.max(...priorities);
  return last === 1 ? 'priority 1' : `priority 1 to ${last}`;
}

/** A list without one of its values; an empty one is not asked for. */
function less<T>(values: T[], one: T): T[] | undefined {
  const rest = values.filter((value) => value !== one);
  return rest.length > 0 ? rest : undefined;
}
