import { Camera, Search } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/design/Button';
import { CameraView } from '@/design/CameraView';
import { TextField } from '@/design/Field';
import { THUMB } from './thumb';

export interface Choice {
  key: string;
  words: string;
  note?: string;
}

interface Props {
  label: string;
  /** What there is to choose from for what was typed or scanned, the best first. */
  find: (text: string) => Choice[];
  onChoose: (key: string) => void;
  /** What is offered where nothing of it fits: the words as they were typed. */
  onWords?: (words: string) => void;
  scans?: boolean;
}

/** Choose from a list that lies on this phone, by typing or scanning: without a signal, too. */
export function Lookup({ label, find, onChoose, onWords, scans = false }: Props) {
  const [text, setText] = useState('');
  const [camera, setCamera] = useState(false);
  const choose = (key: string) => {
    onChoose(key);
    setText('');
    setCamera(false);
  };
  return (
    <div className="space-y-2">
      <div className="flex items-end gap-2">
        <TextField
          label={label}
          className={`flex-1 ${THUMB}`}
          autoComplete="off"
          enterKeyHint="search"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {scans && (
          <Button size="thumb" aria-pressed={camera} onClick={() => setCamera(!camera)}>
            <Camera size={22} aria-label="Scan with the camera" />
          </Button>
        )}
      </div>
      {camera && <CameraView size="thumb" onCode={setText} onClose={() => setCamera(false)} />}
      {text.trim() && (
        <Found
          text={text.trim()}
          choices={find(text.trim())}
          onChoose={choose}
          onWords={
            onWords &&
            ((words) => {
              onWords(words);
              setText('');
            })
          }
        />
      )}
    </div>
  );
}

interface FoundProps {
  text: string;
  choices: Choice[];
  onChoose: (key: string) => void;
  onWords: ((words: string) => void) | undefined;
}

const Found = ({ text, choices, onChoose, onWords }: FoundProps) => (
  <ul aria-label="Found" className="divide-y divide-hairline border-y border-hairline">
    {choices.map(({ key, words, note }) => (
      <li key={key}>
        <button
          type="button"
          onClick={() => onChoose(key)}
          className="flex min-h-14 w-full flex-col justify-center px-2 py-1 text-left text-lg"
        >
          {words}
          {note && <span className="text-sm text-ink-soft">{note}</span>}
        </button>
      </li>
    ))}
    {choices.length === 0 && (
      <li className="flex min-h-14 items-center gap-2 px-2 text-ink-soft">
        <Search size={18} aria-hidden /> Nothing on this phone is called that.
      </li>
    )}
    {onWords && (
      <li className="py-2">
        <Button size="thumb" className="w-full" onClick={() => onWords(text)}>
          <span className="truncate">Take “{text}” as it is</span>
        </Button>
      </li>
    )}
  </ul>
);

/** Which of some rows fit what was typed: each word begins a word of it, or it is exactly what a label says. */
export function fitting<T>(
  rows: readonly T[],
  text: string,
  wordsOf: (row: T) => string,
  code?: (row: T) => string,
) {
  const typed = text.toLowerCase();
  const exact = code ? rows.filter((row) => code(row).toLowerCase() === typed) : [];
  if (exact.length > 0) return exact;
  const wanted = typed.split(/\s+/);
  return rows
    .filter((row) => {
      const there = wordsOf(row)
        .toLowerCase()
        .split(/[^\p{L}\p{N}]+/u);
      return wanted.every((word) => there.some((each) => each.startsWith(word)));
    })
    .slice(0, 12);
}
