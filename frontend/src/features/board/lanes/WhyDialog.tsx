import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';

interface Props {
  reasons: string[];
  onSay: (because: string) => void;
  onClose: () => void;
}

/** A limit that a person may override asks why; the answer is kept with the visit. */
export function WhyDialog({ reasons, onSay, onClose }: Props) {
  const [because, setBecause] = useState('');
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/3 left-1/2 z-50 w-[440px] max-w-[95vw] -translate-x-1/2 rounded-sm border border-ink bg-sheet p-4"
        >
          <Dialog.Title className="text-base font-semibold">There all the same?</Dialog.Title>
          <ul className="my-2 space-y-1 text-sm">
            {reasons.map((reason) => (
              <li key={reason} className="border-l-4 border-warn bg-warn-wash px-2 py-1">
                {reason}
              </li>
            ))}
          </ul>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              onSay(because.trim());
            }}
          >
            <TextField
              label="Why"
              autoFocus
              required
              placeholder="The customer agreed by phone"
              value={because}
              onChange={(event) => setBecause(event.target.value)}
            />
            <div className="mt-3 flex gap-2">
              <Button type="submit" rank="main" disabled={!because.trim()}>
                Place it there
              </Button>
              <Button rank="quiet" onClick={onClose}>
                Cancel
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
