import type { ReactNode } from 'react';
import type { SchemaProposalOut } from '@/api/types';
import { effectRows } from './effects';

/** What the plan would come to, in what a dispatcher counts; below it, how the playbook weighs that. */
export function Effect({ proposal }: { proposal: SchemaProposalOut }) {
  const { before, after } = proposal;
  const broken = proposal.broken_after.length;
  return (
    <section aria-label="Effect" className="space-y-1">
      <h3 className="text-xs font-semibold text-ink-soft">What it comes to</h3>
      {before && after && (
        <Comparison label="What it comes to">
          {effectRows(before, after).map((row) => (
            <Row key={row.words} {...row} />
          ))}
        </Comparison>
      )}
      {(broken > 0 || proposal.broken_before > 0) && (
        <details className="text-sm">
          <summary className="cursor-pointer">
            Broken on these days: {proposal.broken_before} now, {broken} then
          </summary>
          <ul className="mt-1 space-y-0.5 text-ink-soft">
            {proposal.broken_after.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </details>
      )}
      <details className="text-sm" open={!before}>
        <summary className="cursor-pointer text-ink-soft">How the playbook weighs it</summary>
        <p className="mt-1 text-xs text-ink-soft">
          Costs as minutes of driving: what is left undone, or goes against an aim.
        </p>
        <Comparison label="Costs by aim">
          {proposal.aims
            .filter((row) => Math.round(row.before) !== Math.round(row.after))
            .map((row) => (
              <Row
                key={row.aim}
                words={row.name}
                before={figure(row.before)}
                after={figure(row.after)}
                better={row.after < row.before}
              />
            ))}
        </Comparison>
      </details>
    </section>
  );
}

const figure = (value: number) => Math.round(value).toLocaleString('en');

function Comparison({ label, children }: { label: string; children: ReactNode }) {
  return (
    <table className="w-full text-sm" aria-label={label}>
      <thead className="sr-only">
        <tr>
          <th>Measure</th>
          <th>Now</th>
          <th>Then</th>
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}

interface RowProps {
  words: string;
  before: string;
  after: string;
  better: boolean | null;
}

function Row({ words, before, after, better }: RowProps) {
  return (
    <tr className="border-b border-hairline">
      <td className="py-0.5">{words}</td>
      <td className="figures text-right text-ink-soft">{before}</td>
      <td className={`figures w-24 text-right ${better ? 'font-semibold' : ''}`}>
        {better !== null && <span aria-hidden>{better ? '▾' : '▴'} </span>}
        {after}
      </td>
    </tr>
  );
}
