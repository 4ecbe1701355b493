import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { CommandDialog } from '@/design/CommandDialog';
import { FoundAnywhere } from '@/features/board';

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** Find or go to anything, from any page but the board, which has a field of its own with more in it. */
export function GoTo({ open, onOpenChange }: Props) {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const close = () => {
    onOpenChange(false);
    setText('');
  };
  const then = (run: () => void) => () => {
    close();
    run();
  };
  return (
    <CommandDialog
      open={open}
      onOpenChange={(value) => (value ? onOpenChange(true) : close())}
      text={text}
      onType={setText}
      placeholder="Order, customer, or where to go"
    >
      <FoundAnywhere
        text={text}
        open={open}
        then={then}
        onVisit={(visit) =>
          void navigate({ to: '/orders/$orderId', params: { orderId: String(visit.order_id) } })
        }
      />
    </CommandDialog>
  );
}
