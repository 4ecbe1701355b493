import { useNavigate } from '@tanstack/react-router';
import { PartForm } from '@/features/stock';

/** A part that is not there yet. */
export function NewPartPage() {
  const navigate = useNavigate();
  return (
    <div className="max-w-xl space-y-3 p-4">
      <h1 className="text-lg font-semibold">New part</h1>
      <PartForm
        row={null}
        canChange
        onKept={(code) => void navigate({ to: '/stock/parts/$code', params: { code } })}
        onLeave={() => void navigate({ to: '/stock/parts' })}
      />
    </div>
  );
}
