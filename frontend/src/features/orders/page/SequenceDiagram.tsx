import { useState, type PointerEvent } from 'react';
import type { SchemaOrderVisitOut } from '@/api/types';
import { columnsOf, kindWords, type Tie } from './links';

const WIDTH = 150;
const HEIGHT = 34;
const GAP_X = 56;
const GAP_Y = 14;

interface Props {
  visits: SchemaOrderVisitOut[];
  links: Tie[];
  /** Called with the earlier and the later visit when a line was drawn from one to the other. */
  onDraw?: (firstId: number, secondId: number) => void;
}

/** Where each visit is drawn, and how large the drawing is. */
function laidOut(visits: SchemaOrderVisitOut[], links: Tie[]) {
  const column = columnsOf(
    visits.map((visit) => visit.id),
    links,
  );
  const rows = new Map<number, number>();
  const place = new Map<number, Point>();
  for (const visit of visits) {
    const at = column.get(visit.id) ?? 0;
    const row = rows.get(at) ?? 0;
    rows.set(at, row + 1);
    place.set(visit.id, { x: 4 + at * (WIDTH + GAP_X), y: 4 + row * (HEIGHT + GAP_Y) });
  }
  const width = 8 + (Math.max(...column.values()) + 1) * (WIDTH + GAP_X) - GAP_X;
  const height = 8 + Math.max(...rows.values()) * (HEIGHT + GAP_Y) - GAP_Y;
  return { place, width, height };
}

function spotOf(event: PointerEvent<SVGElement>): Point {
  const box = event.currentTarget.ownerSVGElement ?? (event.currentTarget as SVGSVGElement);
  const { left, top } = box.getBoundingClientRect();
  return { x: event.clientX - left, y: event.clientY - top };
}

/** The sequence as a small diagram, from left to right; a line drawn from one visit to another ties them. */
export function SequenceDiagram({ visits, links, onDraw }: Props) {
  const [drawing, setDrawing] = useState<{ from: number; x: number; y: number } | null>(null);
  const { place, width, height } = laidOut(visits, links);
  const words = links.map(
    (link) => `${labelOf(visits, link.second_id)} ${kindWords(link.kind)} ${labelOf(visits, link.first_id)}`,
  );
  const begun = drawing && place.get(drawing.from);
  return (
    <div className="overflow-x-auto">
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`Sequence: ${words.join('; ') || 'no links yet'}`}
        className="touch-none select-none"
        onPointerMove={(event) => drawing && setDrawing({ ...drawing, ...spotOf(event) })}
        onPointerUp={() => setDrawing(null)}
        onPointerLeave={() => setDrawing(null)}
      >
        <Tip />
        {links.map((link) => (
          <LinkLine
            key={link.id}
            kind={link.kind}
            from={place.get(link.first_id)}
            to={place.get(link.second_id)}
          />
        ))}
        {begun && (
          <line
            x1={begun.x + WIDTH}
            y1={begun.y + HEIGHT / 2}
            x2={drawing.x}
            y2={drawing.y}
            stroke="var(--copper)"
            strokeWidth={2}
          />
        )}
        {visits.map((visit) => (
          <VisitBox
            key={visit.id}
            visit={visit}
            at={place.get(visit.id)!}
            canDraw={onDraw !== undefined}
            onBegin={(spot) => setDrawing({ from: visit.id, ...spot })}
            onEnd={() => drawing && drawing.from !== visit.id && onDraw?.(drawing.from, visit.id)}
          />
        ))}
      </svg>
    </div>
  );
}

const Tip = () => (
  <defs>
    <marker
      id="sequence-tip"
      viewBox="0 0 8 8"
      refX="7"
      refY="4"
      markerWidth="7"
      markerHeight="7"
      orient="auto"
    >
      <path d="M0 0 8 4 0 8z" fill="var(--ink)" />
    </marker>
  </defs>
);

interface BoxProps {
  visit: SchemaOrderVisitOut;
  at: Point;
  canDraw: boolean;
  onBegin: (spot: Point) => void;
  onEnd: () => void;
}

const DASHES: Record<string, string> = { open: '2 3', placed: '5 3' };

const VisitBox = ({ visit, at, canDraw, onBegin, onEnd }: BoxProps) => (
  <g
    data-visit={visit.id}
    transform={`translate(${at.x} ${at.y})`}
    style={{ cursor: canDraw ? 'crosshair' : undefined }}
    onPointerDown={(event) => canDraw && onBegin(spotOf(event))}
    onPointerUp={onEnd}
  >
    <rect
      width={WIDTH}
      height={HEIGHT}
      rx={2}
      fill="var(--sheet)"
      stroke="var(--ink)"
      strokeDasharray={DASHES[visit.state]}
    />
    <text x={8} y={14} fontSize={12} fontWeight={600} fill="var(--ink)">
      {visit.label}
      {visit.crew > 1 ? ` · ${visit.crew} people` : ''}
    </text>
    <text x={8} y={28} fontSize={11} fill="var(--ink-soft)">
      {(visit.part_title || visit.title).slice(0, 24)}
    </text>
  </g>
);

interface Point {
  x: number;
  y: number;
}

/** After: an arrow. Together: a double line between. Same technician: a dotted line. */
function LinkLine({ kind, from, to }: { kind: Tie['kind']; from?: Point; to?: Point }) {
  if (!from || !to) return null;
  const start = { x: from.x + WIDTH, y: from.y + HEIGHT / 2 };
  const end = { x: to.x, y: to.y + HEIGHT / 2 };
  if (kind === 'after')
    return (
      <path
        d={`M${start.x} ${start.y} C${start.x + 30} ${start.y} ${end.x - 30} ${end.y} ${end.x - 1} ${end.y}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.5}
        markerEnd="url(#sequence-tip)"
      />
    );
  const middle = { x: from.x + WIDTH / 2, y: from.y + HEIGHT / 2 };
  const other = { x: to.x + WIDTH / 2, y: to.y + HEIGHT / 2 };
  return (
    <path
      d={`M${middle.x} ${middle.y} L${other.x} ${other.y}`}
      fill="none"
      stroke={kind === 'together' ? 'var(--ink)' : 'var(--copper)'}
      strokeWidth={kind === 'together' ? 4 : 2}
      strokeDasharray={kind === 'together' ? undefined : '2 4'}
    />
  );
}

function labelOf(visits: SchemaOrderVisitOut[], id: number): string {
  return visits.find((visit) => visit.id === id)?.label ?? '?';
}
