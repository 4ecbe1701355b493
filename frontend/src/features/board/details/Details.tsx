import { useQuery } from '@tanstack/react-query';
import { MapPin, Phone } from 'lucide-react';
import { sentenceOf } from '@/api/client';
import type { SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Lamp } from '@/design/Lamp';
import { Notice } from '@/design/Notice';
import { PanelHead } from '@/design/PanelHead';
import { StateSign } from '@/design/StateSign';
import { money } from '@/shared/money';
import { clockTime, dayName, isoDay, stamp, window_ } from '@/shared/time';
import { useCompany } from '@/features/company';
import { WriteAbout } from '@/features/messages';
import { OrderBeside, WhoGoes } from '@/features/orders';
import { may, useSession } from '@/features/people';
import { Lately, VisitReport } from '@/features/reports';
import { brokenOf, chanceWords, type Board, type BoardVisit } from '../model';
import { visitQuery } from '../queries';
import { Openings } from '../openings/Openings';
import type { Shown } from '@/features/scheduling';
import { Around } from './Around';
import { EditForm } from './EditForm';
import { happened } from './happened';
import { Offering } from './Offering';
import { Parts } from './Parts';
import { PlaceForm } from './PlaceForm';
import { SendVisitButton } from '../sending/SendButton';
import { Responders } from './Responders';
import { Sections } from './Sections';
import { StepsForTechnician } from './StepsForTechnician';
import { WhyHere } from './WhyHere';
import type { Gap } from '../search';

interface Props {
  visitId: number;
  board: Board;
  canPlan: boolean;
  onClose: () => void;
  onDay: (day: string) => void;
  onShow: (placement: Shown | null) => void;
  onGap: (gap: Gap) => void;
  /** The planner is to repair the day. */
  onRepair: () => void;
  onNear: (point: { lon: number; lat: number }) => void;
}

/** All about the selected visit, beside the board. */
export function Details({ visitId, ...rest }: Props) {
  const visit = useQuery(visitQuery(visitId));
  return (
    <section aria-label="Visit details" data-testid="details" className="flex min-h-0 flex-1 flex-col">
      {visit.isError && (
        <div className="space-y-2 p-3">
          <Notice tone="bad">{sentenceOf(visit.error)}</Notice>
          <Button onClick={rest.onClose}>Close</Button>
        </div>
      )}
      {visit.isPending && <p className="p-3 text-ink-soft">Fetching…</p>}
      {visit.data && <Loaded visit={visit.data} {...rest} />}
    </section>
  );
}

type LoadedProps = Omit<Props, 'visitId'> & { visit: SchemaVisitDetailOut };

type SectionsProps = LoadedProps & { mayOffer: boolean };

function Loaded(props: LoadedProps) {
  const mayOffer = may(useSession(), 'offer_times');
  return (
    <>
      <Head {...props} />
      <Sections sections={sectionsOf({ ...props, mayOffer })} />
    </>
  );
}

/** What stays in sight: what it is, where it stands, what was promised, and what does not hold. */
function Head({ visit, board, canPlan, onClose, onDay }: LoadedProps) {
  const shown = board.visits.find((row) => row.id === visit.id);
  const lane = board.lanes.find((row) => row.technician_id === visit.technician_id);
  const broken = brokenOf(lane).filter((row) => row.visit_id === visit.id);
  return (
    <PanelHead
      title={visit.title}
      above={
        <p className="flex items-center gap-1.5 text-xs text-ink-soft">
          <span className="figures">{visit.number}</span> · priority {visit.priority}
          {visit.worth !== null && <Worth amount={visit.worth} />}
        </p>
      }
      closeLabel="Close details"
      onClose={onClose}
    >
      <div className="mt-1.5 flex items-center justify-between gap-2 text-sm">
        <StateSign state={visit.state} />
        {visit.state === 'placed' && canPlan && <SendVisitButton visit={visit} />}
      </div>
      <Placed visit={visit} shown={shown} onDay={onDay} />
      {visit.promise && <Promised visit={visit} shown={shown} />}
      {broken.map((row) => (
        <p key={row.sentence} className="mt-1 border-l-4 border-warn bg-warn-wash px-2 py-1 text-sm">
          {row.sentence}
        </p>
      ))}
    </PanelHead>
  );
}

interface ShownProps {
  visit: SchemaVisitDetailOut;
  shown: BoardVisit | undefined;
}

function Placed({ visit, shown, onDay }: ShownProps & Pick<Props, 'onDay'>) {
  if (!visit.technician || visit.start === null) return <p className="mt-1 text-sm">Nobody is assigned.</p>;
  const day = isoDay(visit.start);
  return (
    <p className="mt-1 text-sm">
      {visit.technician}, {dayName(visit.start)} <time>{clockTime(visit.start)}</time>
      {shown ? (
        <Expected visit={shown} />
      ) : (
        <button type="button" className="ml-2 underline" onClick={() => onDay(day)}>
          show that day
        </button>
      )}
    </p>
  );
}

function Promised({ visit, shown }: ShownProps) {
  const day = visit.start === null ? undefined : isoDay(visit.start);
  return (
    <p className="mt-0.5 flex items-baseline gap-1.5 text-sm">
      <Lamp lamp={shown?.lamp ?? (visit.technician_id === null ? 'broken' : 'dark')} />
      <span>
        promised {window_(visit.promise!, day)}{' '}
        {shown?.likelihood != null && shown.lamp !== 'broken' && (
          <span
            className="text-ink-soft"
            title="How often the promise holds when the day is played through with lengths as they have varied"
          >
            · {chanceWords(shown.likelihood)} likely to be kept
          </span>
        )}
      </span>
    </p>
  );
}

/** In these there may be something to read of what is done there. */
const BEGUN = new Set(['en_route', 'on_site', 'on_hold', 'done', 'reviewed']);

function sectionsOf({ visit, board, canPlan, mayOffer, onShow, onGap, onRepair, onNear }: SectionsProps) {
  const placed = visit.technician_id !== null;
  const canMove = canPlan && visit.movable;
  const canGo = canMove && visit.duration_seconds !== null;
  const canOffer = mayOffer && visit.state === 'open' && visit.duration_seconds !== null;
  const facts = (
    <>
      <Facts visit={visit} />
      {canPlan && <Words visit={visit} />}
    </>
  );
  const around = (
    <>
      <Parts visit={visit} />
      <Around visit={visit} canLock={canMove && placed} onGap={onGap} onNear={onNear} />
    </>
  );
  const place = <PlaceForm key={`${visit.technician_id} ${visit.start}`} visit={visit} board={board} />;
  const stamp = <StepsForTechnician key={visit.state} visit={visit} onGap={onGap} />;
  const openings = <Openings visit={visit} day={board.day} onShow={onShow} />;
  return [
    { name: 'facts', content: facts },
    { name: 'lately', content: <Lately visit_id={visit.id} /> },
    { name: 'why', words: 'Why', content: placed && <WhyHere visitId={visit.id} /> },
    {
      name: 'report',
      words: 'Report',
      content: BEGUN.has(visit.state) && <VisitReport visitId={visit.id} />,
    },
    { name: 'around', content: around },
    { name: 'responders', content: canGo && <Responders visit={visit} onRepair={onRepair} /> },
    { name: 'offer', content: canOffer && <Offering key={visit.id} visit={visit} /> },
    { name: 'openings', words: 'Openings', content: canGo && openings },
    { name: 'place', words: placed ? 'Move' : 'Place', content: canMove && place },
    { name: 'change', words: 'Change', content: canPlan && <EditForm visit={visit} /> },
    { name: 'stamp', words: 'Stamp', content: canPlan && visit.actions.length > 0 && stamp },
    { name: 'order', words: 'Order', content: <OrderBeside orderId={visit.order_id} /> },
    { name: 'history', words: 'History', content: <History visit={visit} /> },
  ];
}

function Worth({ amount }: { amount: number }) {
  const company = useCompany();
  return <> · worth {money(amount, company.data?.currency)}</>;
}

/** Said only when it differs from the plan. */
function Expected({ visit }: { visit: BoardVisit }) {
  const { start, expected_start: expected } = visit;
  if (start === null || expected === null || Math.abs(expected - start) < 60) return null;
  const begun = !visit.movable && visit.state !== 'en_route';
  return (
    <span className={begun ? 'text-ink-soft' : 'text-warn'}>
      {' '}
      · {begun ? 'began' : 'expected'} <time>{clockTime(expected)}</time>
    </span>
  );
}

function Facts({ visit }: { visit: SchemaVisitDetailOut }) {
  const phone = visit.contact_phone || visit.customer_phone;
  return (
    <div className="space-y-1.5 text-sm">
      <p className="font-semibold">{visit.customer}</p>
      <p className="flex gap-1.5">
        <MapPin size={14} className="mt-0.5 shrink-0 text-ink-soft" aria-hidden />
        <span>
          {visit.site}, {visit.address}
          {visit.area === null && <b className="text-warn"> (outside every area)</b>}
        </span>
      </p>
      {phone && (
        <p className="flex gap-1.5">
          <Phone size={14} className="mt-0.5 shrink-0 text-ink-soft" aria-hidden />
          <span>
            {visit.contact_name && `${visit.contact_name}, `}
            <a href={`tel:${phone}`} className="figures underline">
              {phone}
            </a>
          </span>
        </p>
      )}
      <WhoGoes visit={visit} />
      {visit.asset && <p className="text-ink-soft">{visit.asset}</p>}
      {visit.description && <p className="border-l-2 border-hairline pl-2">{visit.description}</p>}
      {visit.access_notes && <p className="text-ink-soft">Access: {visit.access_notes}</p>}
      {visit.outcome && (
        <p className="border-l-4 border-good bg-good-wash px-2 py-1">
          <b>Done:</b> {visit.outcome}
        </p>
      )}
    </div>
  );
}

const Words = ({ visit }: { visit: SchemaVisitDetailOut }) => (
  <div className="mt-3">
    <WriteAbout
      visitId={visit.id}
      customer={visit.contact_name || visit.customer}
      technician={visit.technician ?? null}
    />
  </div>
);

function History({ visit }: { visit: SchemaVisitDetailOut }) {
  const rows = happened(visit);
  if (rows.length === 0) return null;
  return (
    <section>
      <h3 className="text-xs font-semibold text-ink-soft">What happened</h3>
      <ol className="mt-1 space-y-1 text-sm">
        {rows.map((row, index) => (
          <li key={index} className="flex gap-2">
            <time className="shrink-0 text-ink-soft">{stamp(row.at)}</time>
            <span>
              {row.words}
              {row.note && <span className="text-ink-soft"> “{row.note}”</span>}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
