import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { ChevronLeft } from 'lucide-react';
import type { ReactNode } from 'react';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { stamp } from '@/shared/time';
import { wordsOf } from './model';
import { megabytes, roomQuery, short } from './room';
import { unsentIn } from './sync/ahead';
import type { Kept } from './sync/deeds';
import { useTakenSize } from './takenAlong';
import type { PictureState } from './sync/pictures';
import { useKept, usePhone, useWaitingPictures } from './usePhone';

/** What lies on this phone: what was recorded and not sent, what was taken along, and how much room is left. */
export function ThisPhone() {
  const phone = usePhone();
  const kept = useKept(phone.data);
  const taken = useTakenSize(phone.data);
  const pictures = useWaitingPictures(phone.data);
  return (
    <main className="mx-auto flex min-h-full max-w-md flex-col bg-sheet">
      <Link
        to="/field"
        className="flex min-h-14 items-center gap-1 border-b border-hairline px-3 font-semibold"
      >
        <ChevronLeft size={20} aria-hidden /> My day
      </Link>
      <div className="space-y-5 p-4 text-base">
        <h1 className="text-2xl font-bold">On this phone</h1>
        {phone.isError && <Notice tone="bad">{sentenceOf(phone.error)}</Notice>}
        <NotSent unsent={unsentIn(kept)} />
        <PicturesHere pictures={pictures} />
        <Part title="Taken along">
          {taken.data?.at ? (
            <p>
              {taken.data.things} {taken.data.things === 1 ? 'thing' : 'things'},{' '}
              {megabytes(taken.data.bytes)}, as of <time>{stamp(taken.data.at)}</time>: the days ahead, and
              everything about their visits.
            </p>
          ) : (
            <p>Nothing yet. It is fetched as soon as there is a signal.</p>
          )}
        </Part>
        <Room />
      </div>
    </main>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section>
    <h2 className="text-sm font-semibold text-ink-soft">{title}</h2>
    {children}
  </section>
);

function NotSent({ unsent }: { unsent: Kept[] }) {
  return (
    <Part title="Not sent yet">
      {unsent.length === 0 && <p>Nothing: everything you recorded is at the office.</p>}
      <ol>
        {unsent.map(({ deed }) => (
          <li key={deed.id} className="flex gap-3">
            <time className="text-ink-soft">{stamp(Math.floor(deed.happenedAt / 1000))}</time> {wordsOf(deed)}
          </li>
        ))}
      </ol>
    </Part>
  );
}

/** Photos and signatures that are not at the office: how far each has come, or why it never will be taken. */
function PicturesHere({ pictures }: { pictures: PictureState[] }) {
  if (pictures.length === 0) return null;
  return (
    <Part title="Pictures not sent yet">
      <ol>
        {pictures.map(({ id, size, sent, refused }) => (
          <li key={id}>
            {megabytes(size)}
            {sent > 0 && !refused && `, ${Math.floor((100 * sent) / size)} % sent`}
            {refused && <span className="text-bad"> · not taken: {refused}</span>}
          </li>
        ))}
      </ol>
    </Part>
  );
}

/** How much of what the browser gives is used. */
function Room() {
  const room = useQuery(roomQuery).data;
  if (!room) return null;
  return (
    <Part title="Room">
      <p>
        {megabytes(room.used)} of {megabytes(room.all)} are used.
      </p>
      {short(room) && (
        <Notice tone="warn">
          Little room is left on this phone. Send what is here, then clear away what you do not need.
        </Notice>
      )}
      {!room.lasting && (
        <p className="text-sm text-ink-soft">
          When the phone runs short of room, its browser may clear this away. Put the page on the start screen
          to prevent that.
        </p>
      )}
    </Part>
  );
}
