import { toast } from 'sonner';
import type { SchemaDepotOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { MergeInto, UsedBy } from '@/design/Uses';
import { useDepotUses, useEndDepot } from '../queries';

interface Props {
  depot: SchemaDepotOut;
  /** Into which it can be merged. */
  others: SchemaDepotOut[];
  onDone: () => void;
}

/** Who is at a depot, and the ways to be rid of it. */
export function OneDepot({ depot, others, onDone }: Props) {
  const uses = useDepotUses(depot.id);
  const { retire, merge } = useEndDepot(depot);
  return (
    <section aria-label={`Who uses ${depot.name}`} className="my-2 space-y-2 border-l-2 border-hairline pl-3">
      <UsedBy uses={uses} />
      <Button disabled={retire.isPending} onClick={() => retire.mutate()}>
        {depot.retired ? 'Offer it again' : 'Retire it'}
      </Button>
      <FormError error={retire.error} />
      <MergeInto
        name={depot.name}
        others={others.map(({ id, name }) => ({ key: id, name }))}
        busy={merge.isPending}
        error={merge.error}
        onMerge={(into, name) =>
          merge.mutate(into, {
            onSuccess: () => {
              toast.success(`${depot.name} is ${name} now`);
              onDone();
            },
          })
        }
        hint="Days before today stay as they were."
      />
    </section>
  );
}
