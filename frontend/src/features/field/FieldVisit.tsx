import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { ChevronLeft, MapPinned, Phone } from 'lucide-react';
import { useRef, useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaStep, SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextArea } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { StateSign } from '@/design/StateSign';
import { useSession } from '@/features/people';
import { QuotesAtVisit } from '@/features/quotes';
import { RegionMap } from '@/features/roads';
import { WhoGoes } from '@/features/orders';
import { STEP_WORDS } from '@/shared/signs';
import { clockTime, isoDay, length, stamp, window_ } from '@/shared/time';
import { useFieldStep } from './commands';
import { actionsOf, type Action } from './model';
import { ownVisitQuery, useLiveField, wayQuery } from './queries';

/** One visit, one large action at a time. */
export function FieldVisit() {
  useLiveField();
  const { visitId } = useParams({ strict: false }) as { visitId: string };
  const visit = useQuery(ownVisitQuery(Number(visitId)));
  return (
    <main className="mx-auto flex min-h-full max-w-md flex-col bg-sheet">
      <Link
        to="/field"
        className="flex min-h-12 items-center gap-1 border-b border-hairline px-3 font-semibold"
      >
        <ChevronLeft size={20} aria-hidden /> My day
      </Link>
      {visit.isError && (
        <div className="p-3">
          <Notice tone="bad">{sentenceOf(visit.error)}</Notice>
        </div>
      )}
      {visit.data && <Loaded visit={visit.data} />}
    </main>
  );
}

function Loaded({ visit }: { visit: SchemaVisitDetailOut }) {
  const phone = visit.contact_phone || visit.customer_phone;
  const day = visit.start === null ? undefined : isoDay(visit.start);
  return (
    <>
      <div className="flex-1 space-y-4 p-4 text-base">
        <div>
          <div className="flex items-center justify-between gap-2">
            <StateSign state={visit.state} />
            <span className="figures text-sm text-ink-soft">{visit.number}</span>
          </div>
          <h1 className="mt-1 text-2xl leading-tight font-bold">{visit.title}</h1>
          {visit.start !== null && (
            <p className="mt-1">
              <time className="font-semibold">{clockTime(visit.start)}</time>
              {visit.duration_seconds && `, ${length(visit.duration_seconds)}`}
              {visit.promise && ` · promised ${window_(visit.promise, day)}`}
            </p>
          )}
        </div>
        <div>
          <p className="font-semibold">{visit.site}</p>
          <p>{visit.address}</p>
          <p className="text-ink-soft">{visit.customer}</p>
          <WhoGoes visit={visit} />
          {visit.access_notes && (
            <p className="mt-1 border-l-4 border-copper bg-copper-wash px-2 py-1">{visit.access_notes}</p>
          )}
        </div>
        <div className="grid grid-cols-2 gap-2">
          {phone && (
            <a
              href={`tel:${phone}`}
              className="flex min-h-12 items-center justify-center gap-2 rounded-sm border border-hairline"
            >
              <Phone size={18} aria-hidden /> {visit.contact_name || 'Call'}
            </a>
          )}
          <Way visit={visit} />
        </div>
        <Told title="What is wrong" words={visit.description} />
        <Told title="Equipment" words={visit.asset} />
        <Told title="Notes from the office" words={visit.notes} />
        {visit.outcome && <Notice tone="good">Done: {visit.outcome}</Notice>}
        <Stamps visit={visit} />
        <QuotesAtVisit visitId={visit.id} />
      </div>
      <Steps key={`${visit.state} ${visit.actions[0]?.step}`} visit={visit} />
    </>
  );
}

const Told = ({ title, words }: { title: string; words: string | null }) =>
  words && (
    <div>
      <h2 className="text-sm font-semibold text-ink-soft">{title}</h2>
      <p className="whitespace-pre-line">{words}</p>
    </div>
  );

/** The road there, drawn when asked for. */
function Way({ visit }: { visit: SchemaVisitDetailOut }) {
  const [open, setOpen] = useState(false);
  const way = useQuery({ ...wayQuery(visit.id), enabled: open });
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="flex min-h-12 items-center justify-center gap-2 rounded-sm border border-hairline"
      >
        <MapPinned size={18} aria-hidden /> {open ? 'Hide the way' : 'The way there'}
      </button>
      {open && (
        <div className="col-span-2 h-64 border border-hairline">
          <RegionMap
            label={`The way to ${visit.site}`}
            marks={[{ lon: visit.lon, lat: visit.lat, label: visit.site }]}
            path={way.data?.points as [number, number][] | undefined}
          />
        </div>
      )}
    </>
  );
}

function Stamps({ visit }: { visit: SchemaVisitDetailOut }) {
  if (visit.events.length === 0) return null;
  return (
    <div>
      <h2 className="text-sm font-semibold text-ink-soft">Stamped so far</h2>
      <ol className="text-sm">
        {visit.events.map((row) => (
          <li key={`${row.step} ${row.at} ${row.by}`}>
            <time>{stamp(row.at)}</time> {visit.assignments.length > 1 && `${row.by} `}
            {STEP_WORDS[row.step]}
            {row.note && ` “${row.note}”`}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** Takes a step; the same press again, after an answer that was lost on the way, is done once. */
function useTakeStep(visit: SchemaVisitDetailOut) {
  const step = useFieldStep(visit.id);
  const navigate = useNavigate();
  const keys = useRef<Partial<Record<SchemaStep, string>>>({});
  const take = (action: Action, words: string) =>
    step.mutate(
      {
        key: (keys.current[action.step] ??= crypto.randomUUID()),
        based_on: { state: visit.state, start: visit.start },
        step: action.step,
        note: words,
      },
      {
        onSuccess: () => {
          if (action.step === 'decline') {
            toast.success('Declined. The office knows.');
            void navigate({ to: '/field' });
          }
        },
      },
    );
  return { step, take };
}

function Steps({ visit }: { visit: SchemaVisitDetailOut }) {
  const [asking, setAsking] = useState<Action | null>(null);
  const { step, take } = useTakeStep(visit);
  const session = useSession();
  const leads = visit.technician_id === session.account?.technician_id;
  const [main, ...others] = actionsOf(visit.actions, leads);
  if (!main) return null;
  const press = (action: Action) => (action.ask ? setAsking(action) : take(action, ''));
  return (
    <div className="sticky bottom-0 space-y-2 border-t border-hairline bg-paper p-3">
      {step.isError && <Notice tone="bad">{sentenceOf(step.error)}</Notice>}
      {asking ? (
        <WithNote
          asking={asking}
          busy={step.isPending}
          onBack={() => setAsking(null)}
          onTake={(note) => take(asking, note)}
        />
      ) : (
        <>
          <Button
            size="thumb"
            rank="main"
            className="min-h-16 w-full text-xl"
            disabled={step.isPending}
            onClick={() => press(main)}
          >
            {main.label}
          </Button>
          {others.length > 0 && (
            <div className="flex gap-2">
              {others.map((action) => (
                <Button
                  key={action.step}
                  size="thumb"
                  className="flex-1 text-base"
                  disabled={step.isPending}
                  onClick={() => press(action)}
                >
                  {action.label}
                </Button>
              ))}
            </div>
          )}
        </>
      )}
    </div>
  );
}

interface WithNoteProps {
  asking: Action;
  busy: boolean;
  onBack: () => void;
  onTake: (note: string) => void;
}

/** A step that needs a word. */
function WithNote({ asking, busy, onBack, onTake }: WithNoteProps) {
  const [note, setNote] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (note.trim()) onTake(note);
  };
  return (
    <form onSubmit={submit} className="space-y-2">
      <TextArea
        label={asking.ask ?? ''}
        rows={3}
        autoFocus
        value={note}
        onChange={(event) => setNote(event.target.value)}
        className="text-base"
      />
      <div className="grid grid-cols-[1fr_2fr] gap-2">
        <Button size="thumb" rank="quiet" onClick={onBack}>
          Back
        </Button>
        <Button size="thumb" type="submit" rank="main" disabled={!note.trim() || busy}>
          {asking.label}
        </Button>
      </div>
    </form>
  );
}
