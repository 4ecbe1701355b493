import { TextArea } from '@/design/Field';
import { useSession } from '@/features/people';
import type { OwnVisit } from '../sync/ahead';
import { useDraft } from './draft';
import { useRecord } from './record';
import { THUMB } from './thumb';

type Reader = 'customer' | 'office' | 'self';
const READERS: { reader: Reader; label: string; hint: string }[] = [
  { reader: 'customer', label: 'For the customer', hint: 'Stands in the report.' },
  { reader: 'office', label: 'For the office', hint: 'The customer does not see it.' },
  { reader: 'self', label: 'For yourself', hint: 'Nobody else sees it.' },
];

/** Three different things, which stay where they are written. */
export function Notes({ visit }: { visit: OwnVisit }) {
  return (
    <div className="space-y-5 p-4">
      {READERS.map((each) => (
        <Note key={each.reader} visit={visit} {...each} />
      ))}
    </div>
  );
}

interface NoteProps {
  visit: OwnVisit;
  reader: Reader;
  label: string;
  hint: string;
}

function Note({ visit, reader, label, hint }: NoteProps) {
  const own = useSession().account?.name;
  const record = useRecord(visit.id);
  const kept = visit.report.notes.find((note) => note.reader === reader && note.by === own)?.text ?? '';
  const others = visit.report.notes.filter((note) => note.reader === reader && note.by !== own);
  const draft = useDraft(`${visit.id} note ${reader}`, kept);
  const write = () => {
    if (draft.text.trim() === kept) return void draft.done();
    record.mutate({ kind: 'note', body: { reader, text: draft.text } }, { onSuccess: draft.done });
  };
  return (
    <div>
      <TextArea
        maxLength={10_000}
        label={label}
        hint={hint}
        rows={4}
        value={draft.text}
        onChange={(event) => draft.type(event.target.value)}
        onBlur={write}
        className={THUMB}
      />
      {others.map(({ by, text }) => (
        <p key={by} className="mt-1 border-l-4 border-hairline px-2 text-sm whitespace-pre-line">
          {by}: {text}
        </p>
      ))}
    </div>
  );
}
