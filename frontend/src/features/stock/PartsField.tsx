import { TextArea } from '@/design/Field';
import { usePartName } from './queries';

interface Props {
  /** Quantities by key. */
  parts: Record<string, number>;
  /** What is being typed instead; null: nothing yet. */
  typed: string | null;
  onType: (text: string) => void;
  rows: number;
  error?: string;
}

/** Parts and how many, as lines that are typed; `useKeyedParts` reads them. */
export function PartsField({ parts, typed, onType, rows, error }: Props) {
  const nameOf = usePartName();
  const lines = Object.entries(parts).map(([part, count]) => `${count} ${nameOf(part)}`);
  return (
    <TextArea
      label="Parts to take, like: 2 Door roller"
      rows={rows}
      value={typed ?? lines.join('\n')}
      onChange={(event) => onType(event.target.value)}
      error={error}
    />
  );
}
