import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { useCompany } from '@/features/company';
import { useSkills } from '@/features/people';
import type { Wishes } from './wishes';

interface Props {
  wishes: Wishes;
  onChange: (wishes: Wishes) => void;
}

/** Kinds of work, by the skill they need, and areas that somebody likes or would rather not have. */
export function WishesField({ wishes, onChange }: Props) {
  const skills = (useSkills().data ?? []).filter((row) => !row.retired);
  const areas = useCompany().data?.areas ?? [];
  const things = [
    ...skills.map((row) => ({ key: `skill:${row.code}`, words: row.name, group: 'Work that needs' })),
    ...areas.map((row) => ({ key: `area:${row.id}`, words: row.name, group: 'Areas' })),
  ];
  const without = (key: string) => Object.fromEntries(Object.entries(wishes).filter(([own]) => own !== key));
  return (
    <fieldset className="space-y-1 text-sm">
      <legend className="text-xs font-semibold text-ink-soft">
        Likes, and would rather not: weighed by the planner, no limit
      </legend>
      {things
        .filter(({ key }) => key in wishes)
        .map(({ key, words }) => (
          <div key={key} className="flex items-center gap-2">
            <span className="w-48">{words}</span>
            <select
              aria-label={`Wish about ${words}`}
              className="rounded-sm border border-hairline bg-sheet px-1.5 py-1"
              value={wishes[key]}
              onChange={(event) => onChange({ ...wishes, [key]: event.target.value as Wishes[string] })}
            >
              <option value="likes">likes it</option>
              <option value="avoids">would rather not</option>
            </select>
            <Button rank="quiet" aria-label={`No wish about ${words}`} onClick={() => onChange(without(key))}>
              ✕
            </Button>
          </div>
        ))}
      <SelectField
        label="Add a wish"
        value=""
        onChange={(event) => event.target.value && onChange({ ...wishes, [event.target.value]: 'likes' })}
      >
        <option value="">choose…</option>
        {['Work that needs', 'Areas'].map((group) => (
          <optgroup key={group} label={group}>
            {things
              .filter((thing) => thing.group === group && !(thing.key in wishes))
              .map(({ key, words }) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
          </optgroup>
        ))}
      </SelectField>
    </fieldset>
  );
}
