import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaPartRecordOut } from '@/api/types';
import { Button } from '@/design/Button';
import { PartChoice, usePartName } from '@/features/stock';
import { useMergePart } from '@/features/stock';
import { complain } from '@/shared/complain';

/** Two that are one. */
export function MergePart({ part }: { part: SchemaPartRecordOut }) {
  const [into, setInto] = useState('');
  const merge = useMergePart(part);
  const nameOf = usePartName();
  const navigate = useNavigate();
  const onMerge = () =>
    merge.mutate(into, {
      onSuccess: (kept) => {
        toast.success(`${part.name} is ${kept.name} now, everywhere`);
        void navigate({ to: '/stock/parts/$code', params: { code: kept.code } });
      },
      onError: complain,
    });
  return (
    <section aria-label="Merge" className="space-y-2 border-t border-hairline pt-3">
      <PartChoice
        label="It is the same as, and becomes one with"
        value={into}
        but={[part.code]}
        onChoose={setInto}
      />
      {into && (
        <Button rank="danger" disabled={merge.isPending} onClick={onMerge}>
          Merge into {nameOf(into)}
        </Button>
      )}
    </section>
  );
}
