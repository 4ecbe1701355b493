/** A tag as its list gives it: records hold the key. */
export interface Tag {
  code: string;
  name: string;
  retired: boolean;
}

interface Props {
  /** The company's tags; retired ones are shown where they were chosen earlier. */
  tags: readonly Tag[];
  /** Keys. */
  chosen: string[];
  onChange: (chosen: string[]) => void;
}

/** Words to mark a record with. */
export function TagsField({ tags, chosen, onChange }: Props) {
  const offered = tags.filter((tag) => !tag.retired || chosen.includes(tag.code));
  return (
    <div className="flex flex-wrap items-center gap-3 text-sm" role="group" aria-label="Tags">
      <span className="text-xs font-semibold text-ink-soft">Tags</span>
      {offered.map(({ code, name }) => (
        <label key={code} className="flex items-center gap-1">
          <input
            type="checkbox"
            checked={chosen.includes(code)}
            onChange={(event) =>
              onChange(event.target.checked ? [...chosen, code] : chosen.filter((other) => other !== code))
            }
          />
          {name}
        </label>
      ))}
    </div>
  );
}
