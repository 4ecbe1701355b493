import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from './Button';

interface Props {
  title: ReactNode;
  /** A line above the title, and one below it. */
  above?: ReactNode;
  below?: ReactNode;
  /** Before the title: a portrait. */
  picture?: ReactNode;
  closeLabel: string;
  onClose: () => void;
  /** What else belongs to the head, under title and close. */
  children?: ReactNode;
}

/** The head of what lies beside the board: what it is about, and how to put it away. */
export function PanelHead({ title, above, below, picture, closeLabel, onClose, children }: Props) {
  return (
    <header className="border-b border-hairline p-3">
      <div className={`flex gap-2 ${picture ? 'items-center' : 'items-start'}`}>
        {picture}
        <div className="min-w-0 flex-1">
          {above}
          <h2 className="text-base leading-tight font-semibold">{title}</h2>
          {below}
        </div>
        <Button
          rank="quiet"
          icon={<X size={16} />}
          aria-label={closeLabel}
          title={`${closeLabel}  Esc`}
          onClick={onClose}
        />
      </div>
      {children}
    </header>
  );
}
