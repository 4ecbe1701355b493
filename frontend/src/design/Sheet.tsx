import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './Button';

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  closeLabel: string;
  children: ReactNode;
}

/** A sheet over the page, with a title, that Escape puts away. */
export function Sheet({ open, onOpenChange, title, closeLabel, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[640px] max-w-[95vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-sm border border-ink bg-sheet p-5 text-sm"
        >
          <div className="flex items-start justify-between">
            <Dialog.Title className="text-lg font-semibold">{title}</Dialog.Title>
            <Dialog.Close asChild>
              <Button rank="quiet" icon={<X size={16} />} aria-label={closeLabel} />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
