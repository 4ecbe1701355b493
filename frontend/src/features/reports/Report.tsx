import { Check, Square } from 'lucide-react';
import type { ReactNode } from 'react';
import { urlOf } from '@/api/client';
import type { SchemaReportOut } from '@/api/types';
import { KIND_WORDS, WAY } from '@/shared/steps';
import { clockTime, stamp } from '@/shared/time';
import { isEmpty, sentenceOfAcceptance, wordsOfAnswer } from './model';
import { Sending } from './Sending';
import { Took } from './Took';

/** What was recorded at a visit, as the office reads it: what is there, and what is missing. */
export function Report({ report }: { report: SchemaReportOut }) {
  if (isEmpty(report)) return <p className="text-sm text-ink-soft">Nothing is recorded at this visit yet.</p>;
  return (
    <div className="space-y-3 text-sm">
      <Missing report={report} />
      {report.tasks.length > 0 && (
        <Part title="Tasks">
          <ul>
            {report.tasks.map(({ words, at, by }) => (
              <li key={words} className="flex gap-1.5">
                {at === null ? (
                  <Square size={14} className="mt-0.5 shrink-0 text-ink-soft" aria-label="Not done" />
                ) : (
                  <Check size={14} className="mt-0.5 shrink-0 text-good" aria-label="Done" />
                )}
                <span className="flex-1">{words}</span>
                {at !== null && (
                  <span className="text-ink-soft" title={by}>
                    {clockTime(at)}
                  </span>
                )}
              </li>
            ))}
          </ul>
        </Part>
      )}
      <Form report={report} />
      <Photos report={report} />
      <Took report={report} part={Part} />
      {report.notes.map(({ reader, text, by, at }) => (
        <Part key={`${reader} ${by}`} title={`Note for the ${reader}`}>
          <p className="whitespace-pre-line">{text}</p>
          <p className="text-ink-soft">
            {by}, {stamp(at)}
          </p>
        </Part>
      ))}
      <Acceptance report={report} />
      <Sending visitId={report.visit_id} />
    </div>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section>
    <h4 className="text-xs font-semibold text-ink-soft">{title}</h4>
    {children}
  </section>
);

/** What has to be done and is not, once somebody is at work or has been. */
function Missing({ report }: { report: SchemaReportOut }) {
  const rows = report.standings.filter(({ kind, must, done }) => must && !done && !WAY.includes(kind));
  if (rows.length === 0 || !['on_site', 'on_hold', 'done'].includes(report.state)) return null;
  return (
    <ul className="border-l-4 border-warn bg-warn-wash px-2 py-1">
      {rows.map(({ kind, missing }) => (
        <li key={kind}>
          {KIND_WORDS[kind]}: {missing.join(', ')}
        </li>
      ))}
    </ul>
  );
}

function Form({ report }: { report: SchemaReportOut }) {
  if (report.answers.length === 0) return null;
  return (
    <Part title="Form">
      <dl className="grid grid-cols-[1fr_auto] gap-x-3">
        {report.questions.map((question) => {
          const given = report.answers.find(({ key }) => key === question.key);
          if (!given) return null;
          return (
            <div key={given.key} className="contents">
              <dt>{String(question.label)}</dt>
              <dd className="text-right font-semibold" title={`${given.by}, ${stamp(given.at)}`}>
                {wordsOfAnswer(given.value, question)}
              </dd>
            </div>
          );
        })}
      </dl>
    </Part>
  );
}

function Photos({ report }: { report: SchemaReportOut }) {
  const under = new Map(report.pictures.map(({ id, original }) => [original, id]));
  const photos = report.pictures.filter(({ id, kind }) => kind === 'photo' && !under.has(id));
  if (photos.length === 0) return null;
  return (
    <Part title="Photos">
      <ul className="grid grid-cols-3 gap-1.5">
        {photos.map(({ id, here, caption, pair, original, by, at }) => (
          <li key={id}>
            {here ? (
              <a
                href={urlOf('/api/v1/reports/pictures/{picture_id}', { picture_id: id })}
                target="_blank"
                rel="noreferrer"
                title={`${by}, ${stamp(at)}`}
              >
                <img
                  src={urlOf('/api/v1/reports/pictures/{picture_id}', { picture_id: id })}
                  alt={caption || 'Photo'}
                  loading="lazy"
                  className="h-20 w-full object-cover"
                />
              </a>
            ) : (
              <p className="grid h-20 place-items-center bg-wash text-center text-xs text-ink-soft">
                still on the phone
              </p>
            )}
            <p className="text-xs">
              {[pair, caption].filter(Boolean).join(': ')}
              {original && report.pictures.some((row) => row.id === original && row.here) && (
                <a
                  href={urlOf('/api/v1/reports/pictures/{picture_id}', { picture_id: original })}
                  target="_blank"
                  rel="noreferrer"
                  className="block underline"
                >
                  without the drawing
                </a>
              )}
            </p>
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Acceptance({ report }: { report: SchemaReportOut }) {
  const said = report.acceptance;
  if (!said) return null;
  const signature = report.pictures.find(({ id, here }) => id === said.signature && here);
  return (
    <Part title={KIND_WORDS.acceptance!}>
      <p>
        {sentenceOfAcceptance(said)}, {stamp(said.at)}
      </p>
      {said.words && <p className="whitespace-pre-line">“{said.words}”</p>}
      {signature && (
        <img
          src={urlOf('/api/v1/reports/pictures/{picture_id}', { picture_id: signature.id })}
          alt={`Signature of ${said.name}`}
          className="mt-1 h-16 border border-hairline bg-white"
        />
      )}
    </Part>
  );
}
