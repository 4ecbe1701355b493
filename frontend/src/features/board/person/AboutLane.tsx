import { serverNow } from '@/shared/clock';
import { addDays, isoDay, length } from '@/shared/time';
import { brokenOf, load, type Lane } from '../model';

/** A certificate that ends within so many days is said to. */
const SOON_DAYS = 30;

/** Hours, skills, areas, certificates, how to reach them, and what is wrong with the days shown. */
export function AboutLane({ lane }: { lane: Lane }) {
  const full = load(lane);
  const skills = Object.entries(lane.skills).map(([skill, level]) => `${skill} ${level}`);
  const broken = brokenOf(lane).slice(0, 6);
  return (
    <>
      <dl className="grid grid-cols-[5rem_1fr] gap-y-0.5 text-sm">
        {full && (
          <>
            <Fact name="Planned">
              {length(full.planned)} · {Math.round(full.driving * 100)} % of it driving
            </Fact>
            <Fact name="Free">{length(full.free)}</Fact>
            {full.overtime > 0 && <Fact name="Overtime">{length(full.overtime)}</Fact>}
          </>
        )}
        <Fact name="Depot">{lane.depot}</Fact>
        <Fact name="Phone">
          <a className="figures underline" href={`tel:${lane.phone}`}>
            {lane.phone}
          </a>
        </Fact>
        {lane.email && (
          <Fact name="E-mail">
            <a className="break-all underline" href={`mailto:${lane.email}`}>
              {lane.email}
            </a>
          </Fact>
        )}
        <Fact name="Areas">{lane.areas.join(', ') || 'every area'}</Fact>
        <Fact name="Skills">{skills.join(', ') || 'none'}</Fact>
        {lane.certificates.length > 0 && (
          <Fact name="Papers">
            {lane.certificates.map((paper) => (
              <Certificate key={`${paper.name} ${paper.number}`} {...paper} />
            ))}
          </Fact>
        )}
      </dl>
      {broken.map((row) => (
        <p key={row.sentence} className="mt-1 border-l-4 border-warn bg-warn-wash px-2 py-0.5 text-sm">
          {row.sentence}
        </p>
      ))}
    </>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="contents">
      <dt className="text-ink-soft">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}

function Certificate({ name, number, valid_until }: Lane['certificates'][number]) {
  const today = isoDay(serverNow());
  const ended = valid_until !== null && valid_until < today;
  const soon = valid_until !== null && valid_until < addDays(today, SOON_DAYS);
  const look = ended ? 'font-semibold text-bad' : soon ? 'text-warn' : '';
  return (
    <span className={`block ${look}`} title={number}>
      {name}
      {valid_until !== null && `${ended ? ', ended' : ', until'} ${valid_until}`}
    </span>
  );
}
