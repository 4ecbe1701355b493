import { useState, type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { TextArea, TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { SignaturePad } from '@/design/SignaturePad';
import { useSession } from '@/features/people';
import { clockTime } from '@/shared/time';
import { inWords } from '../trouble';
import type { OwnVisit } from '../sync/ahead';
import type { Bodies } from '../sync/report';
import { Picture } from './Picture';
import { useRecord, useTakePictures } from './record';
import { SendReport } from './SendReport';
import { THUMB } from './thumb';

type Body = Bodies['acceptance'];

/** The phone in the customer's hand: what was done, and their name under it; or why nobody signed. */
export function Acceptance({ visit }: { visit: OwnVisit }) {
  const said = visit.report.acceptance;
  const [anew, setAnew] = useState(false);
  const [nobody, setNobody] = useState(false);
  const shown = useShown(visit);
  if (said && !anew)
    return (
      <>
        <Said visit={visit} onAnew={() => setAnew(true)} />
        <SendReport visit={visit} />
      </>
    );
  return (
    <div className="space-y-4 p-4 text-lg">
      <h2 className="font-semibold">What was done</h2>
      {shown.length === 0 ? (
        <p className="text-ink-soft">Nothing is recorded yet.</p>
      ) : (
        <ul className="list-disc space-y-1 pl-6">
          {shown.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
      {nobody ? (
        <Nobody visit={visit} shown={shown} onBack={() => setNobody(false)} onKept={() => setAnew(false)} />
      ) : (
        <Signs visit={visit} shown={shown} onNobody={() => setNobody(true)} onKept={() => setAnew(false)} />
      )}
    </div>
  );
}

/** What the customer reads before they sign. */
function useShown(visit: OwnVisit): string[] {
  const own = useSession().account?.name;
  const { tasks, notes, entries } = visit.report;
  const told = notes
    .filter(({ reader, by }) => reader === 'customer' && (by === own || by !== ''))
    .map(({ text }) => text);
  const parts = entries.used
    .filter(({ quantity }) => quantity > 0)
    .map(({ quantity, name }) => `Part: ${quantity} × ${name}`);
  const charges = entries.charges.map(({ quantity, words }) => `Charged: ${quantity / 1000} × ${words}`);
  return [...tasks.filter(({ at }) => at !== null).map(({ words }) => words), ...parts, ...charges, ...told];
}

interface Part {
  visit: OwnVisit;
  shown: string[];
  onKept: () => void;
}

function Signs({ visit, shown, onNobody, onKept }: Part & { onNobody: () => void }) {
  const [name, setName] = useState(visit.contact_name);
  const [words, setWords] = useState('');
  const [rating, setRating] = useState<number | null>(null);
  const [drawn, setDrawn] = useState<string | null>(null);
  const take = useTakePictures(visit.id);
  const record = useRecord(visit.id);
  const keep = async () => {
    const [signature] = await take.mutateAsync([{ drawn: drawn!, kind: 'signature' }]);
    const body: Body = { ended: 'signed', name, rating, words, signature, shown };
    await record.mutateAsync({ kind: 'acceptance', body });
    onKept();
  };
  const error = take.error ?? record.error;
  return (
    <form
      className="space-y-4"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        void keep().catch(() => undefined);
      }}
    >
      <Rating rating={rating} onRate={setRating} />
      <TextArea
        label="A word, if you like"
        rows={2}
        maxLength={1000}
        value={words}
        onChange={(e) => setWords(e.target.value)}
        className={THUMB}
      />
      <TextField
        label="Your name"
        maxLength={120}
        required
        value={name}
        onChange={(e) => setName(e.target.value)}
        className={THUMB}
      />
      <SignaturePad label="Sign here" onDraw={setDrawn} className="h-44" />
      {error && <Notice tone="bad">{inWords(error)}</Notice>}
      <Button
        type="submit"
        rank="main"
        size="thumb"
        className="min-h-16 w-full text-xl"
        disabled={!drawn || !name.trim() || take.isPending || record.isPending}
      >
        Sign
      </Button>
      <Button size="thumb" className="w-full" onClick={onNobody}>
        Nobody signs
      </Button>
    </form>
  );
}

/** From 1 to 5, as large as a thumb; pressed again it is taken back. */
function Rating({ rating, onRate }: { rating: number | null; onRate: (rating: number | null) => void }) {
  return (
    <div>
      <p id="rating" className="text-sm font-semibold text-ink-soft">
        How was it? 1 is poor, 5 is very good
      </p>
      <div role="radiogroup" aria-labelledby="rating" className="grid grid-cols-5 gap-2">
        {[1, 2, 3, 4, 5].map((number) => (
          <button
            key={number}
            type="button"
            role="radio"
            aria-checked={rating === number}
            onClick={() => onRate(rating === number ? null : number)}
            className={`min-h-14 rounded-sm border-2 text-xl ${rating === number ? 'border-copper bg-copper-wash font-bold' : 'border-hairline'}`}
          >
            {number}
          </button>
        ))}
      </div>
    </div>
  );
}

function Nobody({ visit, shown, onBack, onKept }: Part & { onBack: () => void }) {
  const [words, setWords] = useState('');
  const record = useRecord(visit.id);
  const keep = (ended: Body['ended']) =>
    record.mutate({ kind: 'acceptance', body: { ended, words, shown } }, { onSuccess: onKept });
  return (
    <div className="space-y-3">
      <TextArea
        label="Why does nobody sign?"
        rows={3}
        maxLength={1000}
        value={words}
        onChange={(e) => setWords(e.target.value)}
        className={THUMB}
      />
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      <Button size="thumb" className="w-full" disabled={!words.trim()} onClick={() => keep('absent')}>
        Nobody is there
      </Button>
      <Button size="thumb" className="w-full" disabled={!words.trim()} onClick={() => keep('refused')}>
        They refuse
      </Button>
      <Button size="thumb" rank="quiet" className="w-full" onClick={onBack}>
        Back
      </Button>
    </div>
  );
}

const HEADS: Record<string, string> = {
  signed: 'Signed',
  refused: 'The customer refused to sign',
  absent: 'Nobody was there to sign',
};

function Said({ visit, onAnew }: { visit: OwnVisit; onAnew: () => void }) {
  const said = visit.report.acceptance!;
  const signature = visit.report.pictures.find(({ id }) => id === said.signature);
  return (
    <div className="space-y-3 p-4 text-lg">
      <h2 className="text-xl font-semibold">{HEADS[said.ended]}</h2>
      <p>
        {[said.name, clockTime(said.at), said.rating && `${said.rating} of 5`].filter(Boolean).join(', ')}
      </p>
      {said.words && <p className="whitespace-pre-line">“{said.words}”</p>}
      {signature && (
        <Picture
          id={signature.id}
          here={signature.here}
          words={`Signature of ${said.name}`}
          className="h-32 w-full bg-white"
        />
      )}
      {visit.state !== 'done' && (
        <Button size="thumb" onClick={onAnew}>
          Ask again
        </Button>
      )}
    </div>
  );
}
