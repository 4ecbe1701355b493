interface Props {
  /** The company's tags; those chosen earlier and gone since are shown as well. */
  tags: string[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
}

/** Words to mark a record with. */
export function TagsField({ tags, chosen, onChange }: Props) {
  return (
    <div className="flex flex-wrap items-center gap-3 text-sm" role="group" aria-label="Tags">
      <span className="text-xs font-semibold text-ink-soft">Tags</span>
      {[...new Set([...tags, ...chosen])].map((tag) => (
        <label key={tag} className="flex items-center gap-1">
          <input
            type="checkbox"
            checked={chosen.includes(tag)}
            onChange={(event) =>
              onChange(event.target.checked ? [...chosen, tag] : chosen.filter((other) => other !== tag))
            }
          />
          {tag}
        </label>
      ))}
    </div>
  );
}
