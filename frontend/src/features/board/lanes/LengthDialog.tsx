import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { length, parseLength } from '@/shared/time';
import { askLength, useLengthAsked, type LengthAsked } from '../asking';
import { useStretch } from '../commands';

const USUAL = [30, 45, 60, 90, 120, 180];

/** Asked where a visit without a length is to be placed: it is given one, and placed. */
export function LengthDialog() {
  const asked = useLengthAsked();
  return asked && <Asking key={asked.visit.id} asked={asked} />;
}

function Asking({ asked: { visit, then } }: { asked: LengthAsked }) {
  const [typed, setTyped] = useState('');
  const [wrong, setWrong] = useState<string>();
  const stretch = useStretch();
  const close = () => askLength(null);
  const give = (seconds: number) =>
    stretch.mutate(
      { visit, seconds },
      {
        onSuccess: () => {
          close();
          then();
        },
      },
    );
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content className="fixed top-1/3 left-1/2 z-50 w-[440px] max-w-[95vw] -translate-x-1/2 rounded-sm border border-ink bg-sheet p-4">
          <Dialog.Title className="text-base font-semibold">How long will it take?</Dialog.Title>
          <Dialog.Description className="my-2 text-sm text-ink-soft">
            No length is known yet. It is saved with the visit, then the visit is placed.
          </Dialog.Description>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              const seconds = parseLength(typed);
              if (seconds === null) setWrong('A length, like 45 or 1:30');
              else give(seconds);
            }}
          >
            <Usual busy={stretch.isPending} onGive={give} />
            <TextField
              label="Length"
              autoFocus
              placeholder="45 or 1:30"
              value={typed}
              error={wrong}
              onChange={(event) => setTyped(event.target.value)}
            />
            <div className="mt-3 flex gap-2">
              <Button type="submit" rank="main" disabled={stretch.isPending || !typed.trim()}>
                Place it
              </Button>
              <Button rank="quiet" onClick={close}>
                Cancel
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const Usual = ({ busy, onGive }: { busy: boolean; onGive: (seconds: number) => void }) => (
  <div className="mb-2 flex flex-wrap gap-1.5">
    {USUAL.map((minutes) => (
      <Button key={minutes} disabled={busy} onClick={() => onGive(60 * minutes)}>
        {length(60 * minutes)}
      </Button>
    ))}
  </div>
);
