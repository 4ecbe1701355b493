export const YES_NO = [
  { value: true, words: 'Yes' },
  { value: false, words: 'No' },
];

interface OneOfProps {
  label: string;
  choices: readonly { value: string | boolean; words: string }[];
  value: unknown;
  onPick: (value: string | boolean | null) => void;
}

/** One of a few, each as large as a thumb; the chosen one pressed again is taken back. */
export function OneOf({ label, choices, value, onPick }: OneOfProps) {
  return (
    <div role="radiogroup" aria-label={label} className="grid grid-cols-2 gap-2">
      {choices.map((choice) => {
        const on = choice.value === value;
        return (
          <button
            key={choice.words}
            type="button"
            role="radio"
            aria-checked={on}
            onClick={() => onPick(on ? null : choice.value)}
            className={`min-h-14 rounded-sm border-2 px-3 text-lg ${on ? 'border-copper bg-copper-wash font-semibold' : 'border-hairline bg-sheet'}`}
          >
            {choice.words}
          </button>
        );
      })}
    </div>
  );
}
