import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { sentenceOf, urlOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FileChoice } from '@/design/FileChoice';
import { Notice } from '@/design/Notice';
import { MergeInto, UsedBy } from '@/design/Uses';
import { may, useSession } from '@/features/people';
import { AreaEditor, type AreaShape } from '@/features/roads';
import { useAreaChanges, useAreaShapes, useAreaUses, type Area } from './areas';

/** The areas in which technicians work: drawn and edited on the map; every site finds its area anew. */
export function AreasPage() {
  const canChange = may(useSession(), 'change_settings');
  const [chosenId, setChosenId] = useState<number | null>(null);
  const [drawn, setDrawn] = useState<AreaShape | null>(null);
  const { shapes, asOf } = useAreaShapes();
  const choose = (area: Area | null) => {
    setChosenId(area?.id ?? null);
    setDrawn(area?.polygon ?? null);
  };
  const changes = useAreaChanges(() => choose(null));
  const chosen = shapes.find((shape) => shape.id === chosenId) ?? null;
  return (
    <div className="grid h-full min-h-0 grid-cols-[17rem_minmax(0,1fr)]">
      <div className="min-h-0 space-y-2 overflow-y-auto border-r border-hairline p-3 text-sm">
        <h1 className="text-lg font-semibold">Areas</h1>
        <p className="text-ink-soft">
          {canChange
            ? 'Choose one to change its outline, or click around a new one on the map.'
            : 'An administrator draws them.'}
        </p>
        <ul className="divide-y divide-hairline border-y border-hairline" aria-label="Areas">
          {shapes.map((shape) => (
            <AreaRow
              key={shape.id}
              name={shape.name}
              chosen={shape.id === chosenId}
              onChoose={() => choose(shape)}
              onRemove={canChange ? () => changes.remove.mutate(shape) : undefined}
            />
          ))}
        </ul>
        {canChange && <Changing chosen={chosen} drawn={drawn} choose={choose} changes={changes} />}
        {chosen && (
          <OneArea key={chosen.id} area={chosen} shapes={canChange ? shapes : []} changes={changes} />
        )}
        <a className="block underline" href={urlOf('/api/v1/areas.geojson')} download="areas.geojson">
          areas.geojson
        </a>
        {changes.failure && <Notice tone="bad">{sentenceOf(changes.failure)}</Notice>}
      </div>
      <AreaEditor
        key={`${chosenId ?? 'new'} ${asOf}`}
        shapes={shapes.filter((shape) => shape.id !== chosenId)}
        edited={chosen?.polygon ?? null}
        onDraw={canChange ? setDrawn : undefined}
      />
    </div>
  );
}

interface ChangingProps {
  chosen: Area | null;
  drawn: AreaShape | null;
  choose: (area: Area | null) => void;
  changes: ReturnType<typeof useAreaChanges>;
}

const Changing = ({ chosen, drawn, choose, changes: { keep, take } }: ChangingProps) => (
  <>
    <Button onClick={() => choose(null)}>Draw a new one</Button>
    {drawn && (
      <AreaName
        key={chosen?.id}
        name={chosen?.name ?? ''}
        busy={keep.isPending}
        onKeep={(name) => keep.mutate({ name, polygon: drawn, of: chosen })}
      />
    )}
    <FileChoice className="flex min-h-8 items-center gap-2 underline" onFile={(file) => take.mutate(file)}>
      <FileUp size={15} aria-hidden /> take areas from GeoJSON
    </FileChoice>
  </>
);

interface OneProps {
  area: Area;
  /** Those it can be merged into; none for who only looks. */
  shapes: Area[];
  changes: ReturnType<typeof useAreaChanges>;
}

/** Who is in an area, and making it one with another. */
function OneArea({ area, shapes, changes: { merge } }: OneProps) {
  return (
    <section aria-label={`Who uses ${area.name}`} className="space-y-2">
      <UsedBy uses={useAreaUses(area.id)} />
      <MergeInto
        name={area.name}
        others={shapes.filter(({ id }) => id !== area.id).map(({ id, name }) => ({ key: id, name }))}
        busy={merge.isPending}
        error={merge.error}
        onMerge={(into, name) => merge.mutate({ area, into, name })}
        hint="The one that is kept has the outline of both."
      />
    </section>
  );
}

interface RowProps {
  name: string;
  chosen: boolean;
  onChoose: () => void;
  onRemove: (() => void) | undefined;
}

const AreaRow = ({ name, chosen, onChoose, onRemove }: RowProps) => (
  <li className={`flex justify-between ${chosen ? 'bg-copper-wash' : ''}`}>
    <button type="button" className="flex-1 px-1 py-1 text-left hover:underline" onClick={onChoose}>
      {name}
    </button>
    {onRemove && (
      <button type="button" aria-label={`Remove ${name}`} className="px-2 text-ink-soft" onClick={onRemove}>
        ✕
      </button>
    )}
  </li>
);

function AreaName(props: { name: string; busy: boolean; onKeep: (name: string) => void }) {
  const [name, setName] = useState(props.name);
  return (
    <form
      className="space-y-1"
      aria-label="Area"
      onSubmit={(event) => {
        event.preventDefault();
        props.onKeep(name);
      }}
    >
      <TextField label="Name" value={name} onChange={(event) => setName(event.target.value)} />
      <Button type="submit" rank="main" disabled={!name.trim() || props.busy}>
        Save area
      </Button>
    </form>
  );
}
