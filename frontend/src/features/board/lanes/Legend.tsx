import { Sheet } from '@/design/Sheet';
import { Lamp } from '@/design/Lamp';
import { StateSign } from '@/design/StateSign';
import type { SchemaVisitState } from '@/api/types';
import { SequenceSign } from '@/design/SequenceSign';
import { Lock, PackageX, StickyNote, Users } from 'lucide-react';

const STATES: SchemaVisitState[] = [
  'placed',
  'sent',
  'accepted',
  'en_route',
  'on_site',
  'on_hold',
  'done',
  'missed',
];

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  /** What each hue on screen stands for. */
  hues: ReadonlyMap<string, string>;
}

/** The legend of the board: its signs, and the keys of the keyboard. */
export function Legend({ open, onOpenChange, hues }: Props) {
  return (
    <Sheet open={open} onOpenChange={onOpenChange} title="Legend" closeLabel="Close the legend">
      <div className="mt-3 grid gap-6 sm:grid-cols-2">
        <section>
          <DayAsLine />
          <Lamps />
        </section>
        <section>
          <States hues={hues} />
          <Keys />
        </section>
      </div>
    </Sheet>
  );
}

const DayAsLine = () => (
  <>
    <h3 className="mb-1 font-semibold">A day is a line</h3>
    <dl className="space-y-1 text-sm">
      <LineRow d="M2 8h40" width={2.5} words="driving, with its minutes" />
      <LineRow d="M2 8h40" width={1} dash="1 3" words="waiting" />
      <LineRow d="M2 8h10v6h18v-6h12" width={1.5} words="break" />
      <LineRow d="M2 2v12M42 2v12" width={2} words="the shift begins and ends" />
      <LineRow d="M2 8h40" width={2} dash="3 2" copper words="overtime" />
      <LineRow d="M2 5h40v6h-40z" width={1} words="on call, for work of priority 1 only" />
      <LineRow d="M2 5v5h40v-5" width={1} words="the promise: arrive inside it" />
      <LineRow d="M22 1v14" width={2} copper words="now" />
      <SignRow words="what is held fits here without harm">
        <span className="border-x-[6px] border-t-[7px] border-x-transparent border-t-good" />
      </SignRow>
      <SignRow words="proposed, until it is accepted">
        <span className="h-4 w-9 rounded-sm border-2 border-dashed border-copper bg-copper-wash" />
      </SignRow>
      <SignRow words="absent, with the reason">
        <Pattern name="absent" />
      </SignRow>
      <SignRow words="holiday: nobody has a shift">
        <Pattern name="holiday" />
      </SignRow>
      <SignRow words="a reminder; faint when done">
        <svg width="12" height="10">
          <path d="M1 0V10M1 0H11L8 4.5L11 9H1" fill="var(--ink)" stroke="var(--ink)" />
        </svg>
      </SignRow>
      <SignRow words="on a crew’s line: somebody of them is busy">
        <span className="h-3 w-9 bg-hairline" />
      </SignRow>
      <SignRow words="nobody knows how long it takes">
        <span
          className="h-4 w-9 rounded-l-sm border border-r-0 border-ink bg-sheet"
          style={{ maskImage: 'linear-gradient(to right, black 40%, transparent)' }}
        />
      </SignRow>
    </dl>
  </>
);

const Pattern = ({ name }: { name: string }) => (
  <svg width="36" height="16">
    <rect width="36" height="16" style={{ fill: `url(#${name}) var(--wash)` }} />
  </svg>
);

const Lamps = () => (
  <>
    <h3 className="mt-4 mb-1 font-semibold">The lamp of a promise</h3>
    <ul className="space-y-1 text-sm">
      <li className="flex items-center gap-2">
        <Lamp lamp="dark" /> safe: shown in lists, not on the board
      </li>
      <li className="flex items-center gap-2">
        <Lamp lamp="watch" /> tight: kept less than nine times in ten
      </li>
      <li className="flex items-center gap-2">
        <Lamp lamp="broken" /> broken: nobody, or not inside it
      </li>
    </ul>
  </>
);

const States = ({ hues }: Pick<Props, 'hues'>) => (
  <>
    <h3 className="mb-1 font-semibold">State of a visit</h3>
    <ul className="space-y-1.5 text-sm">
      {STATES.map((state) => (
        <li key={state}>
          <StateSign state={state} />
        </li>
      ))}
      <li>
        <b className="text-warn">!</b> breaks a limit; the details say which
      </li>
      <Mark icon={<PackageX size={13} className="text-warn" />} words="a part is not on the van" />
      <Mark icon={<Users size={13} />} words="several go together" />
      <Mark icon={<SequenceSign size={13} />} words="tied to another visit" />
      <Mark icon={<Lock size={13} />} words="locked: no plan moves it" />
      <Mark icon={<StickyNote size={13} />} words="has a note" />
      {[...hues].map(([value, hue]) => (
        <li key={value} className="flex items-center gap-2">
          <span aria-hidden className="h-1.5 w-6" style={{ background: hue }} /> {value}
        </li>
      ))}
    </ul>
  </>
);

const Keys = () => (
  <>
    <h3 className="mt-4 mb-1 font-semibold">Keyboard</h3>
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-sm">
      {KEYS.map(([key, words]) => (
        <div key={key} className="contents">
          <dt>
            <kbd className="rounded-sm border border-hairline bg-paper px-1">{key}</kbd>
          </dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
  </>
);

function SignRow({ words, children }: { words: string; children: React.ReactNode }) {
  return (
    <div className="flex items-center gap-3">
      <dt aria-hidden className="inline-flex w-11 shrink-0 justify-center">
        {children}
      </dt>
      <dd>{words}</dd>
    </div>
  );
}

function Mark({ icon, words }: { icon: React.ReactNode; words: string }) {
  return (
    <li className="flex items-center gap-2">
      <span aria-hidden className="inline-flex w-6 justify-center">
        {icon}
      </span>
      {words}
    </li>
  );
}

const KEYS: [string, string][] = [
  ['Ctrl K', 'find or do anything'],
  ['Arrows', 'from visit to visit'],
  ['Enter', 'open the focused visit'],
  ['Space', 'choose it, with others'],
  ['M', 'pick it up; then arrows, Enter places, Esc cancels'],
  ['L', 'change its length: arrows, then Enter'],
  ['Delete', 'back to the backlog'],
  ['N', 'what could come next after it'],
  ['O', 'the openings of the selected visit'],
  ['G', 'the next gap, and what fits (Shift: the one before)'],
  ['T', 'today'],
  ['[ ]', 'days before, days after'],
  ['Ctrl Z', 'undo (Shift: redo), 50 deep'],
  ['/', 'search the backlog'],
  ['?', 'this legend'],
];

function LineRow({
  d,
  width,
  dash,
  copper,
  words,
}: {
  d: string;
  width: number;
  dash?: string;
  copper?: boolean;
  words: string;
}) {
  return (
    <div className="flex items-center gap-3">
      <dt>
        <svg width="44" height="16" aria-hidden>
          <path
            d={d}
            fill="none"
            stroke={copper ? 'var(--copper)' : 'var(--ink)'}
            strokeWidth={width}
            strokeDasharray={dash}
          />
        </svg>
      </dt>
      <dd>{words}</dd>
    </div>
  );
}
