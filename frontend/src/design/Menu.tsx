import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

/** What opens below a button: `MenuItem`s and whatever stands between them. */
export function Menu({ trigger, children }: { trigger: ReactNode; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 min-w-56 rounded-sm border border-ink bg-sheet p-1 text-sm"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export const MenuItem = ({ words, onSelect }: { words: string; onSelect: () => void }) => (
  <DropdownMenu.Item
    className="cursor-pointer rounded-sm px-2 py-1.5 outline-none data-[highlighted]:bg-copper-wash"
    onSelect={onSelect}
  >
    {words}
  </DropdownMenu.Item>
);

export const MenuLine = () => <DropdownMenu.Separator className="my-1 border-t border-hairline" />;
