import { Button } from '@/design/Button';
import { useSkillName, useSkills } from './queries';

const BOX = 'rounded-sm border border-hairline bg-sheet px-1.5 py-1.5';

interface Props {
  /** What the levels are: what is needed at least, or what somebody has. */
  words?: string;
  needs: Record<string, number>;
  onChange: (needs: Record<string, number>) => void;
}

/** The skills a visit needs, each with its least level. */
export function SkillsField({ words = 'Skills, least level', needs, onChange }: Props) {
  const skills = useSkills();
  const nameOf = useSkillName();
  return (
    <fieldset>
      <legend className="mb-0.5 text-xs font-semibold text-ink-soft">{words}</legend>
      {Object.entries(needs).map(([skill, level]) => (
        <div key={skill} className="mb-1 flex items-center gap-1 text-sm">
          <span className="flex-1">{nameOf(skill)}</span>
          <select
            aria-label={`Level of ${nameOf(skill)}`}
            className={`${BOX} w-14`}
            value={level}
            onChange={(event) => onChange({ ...needs, [skill]: Number(event.target.value) })}
          >
            {[1, 2, 3, 4, 5].map((value) => (
              <option key={value}>{value}</option>
            ))}
          </select>
          <Button
            rank="quiet"
            aria-label={`Remove ${nameOf(skill)}`}
            onClick={() => onChange(without(needs, skill))}
          >
            ✕
          </Button>
        </div>
      ))}
      <select
        aria-label="Add a skill"
        className={`${BOX} w-full`}
        value=""
        onChange={(event) => event.target.value && onChange({ ...needs, [event.target.value]: 1 })}
      >
        <option value="">{Object.keys(needs).length ? 'add a skill…' : 'none; add a skill…'}</option>
        {(skills.data ?? [])
          .filter((skill) => !skill.retired && !(skill.code in needs))
          .map((skill) => (
            <option key={skill.code} value={skill.code}>
              {skill.name}
            </option>
          ))}
      </select>
    </fieldset>
  );
}

function without(needs: Record<string, number>, skill: string): Record<string, number> {
  return Object.fromEntries(Object.entries(needs).filter(([name]) => name !== skill));
}
