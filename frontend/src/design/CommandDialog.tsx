import { Command } from 'cmdk';
import { Children, useEffect, useState, type ReactNode } from 'react';

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  text: string;
  onType: (text: string) => void;
  placeholder: string;
  children: ReactNode;
}

/** One field from which everything is reached: what is typed narrows the groups below it. */
export function CommandDialog({ open, onOpenChange, text, onType, placeholder, children }: Props) {
  return (
    <Command.Dialog
      open={open}
      onOpenChange={onOpenChange}
      label="Find or do anything"
      shouldFilter={false}
      loop
      overlayClassName="fixed inset-0 z-40 bg-ink/20"
      contentClassName="fixed top-24 left-1/2 z-50 w-[560px] max-w-[95vw] -translate-x-1/2 rounded-sm border border-ink bg-sheet"
    >
      <Command.Input
        value={text}
        onValueChange={onType}
        placeholder={placeholder}
        className="w-full border-b border-hairline bg-transparent px-3 py-2.5 text-base outline-none"
      />
      <Command.List className="command-list max-h-[60vh] overflow-y-auto p-1 text-sm">
        <Command.Empty className="p-3 text-ink-soft">Nothing is called that.</Command.Empty>
        {children}
      </Command.List>
    </Command.Dialog>
  );
}

export function CommandGroup({ heading, children }: { heading: string; children: ReactNode }) {
  if (Children.count(children) === 0) return null;
  return <Command.Group heading={heading}>{children}</Command.Group>;
}

interface ItemProps {
  /** Unlike that of any other item. */
  value: string;
  onSelect: () => void;
  children: ReactNode;
}

export function CommandItem({ value, onSelect, children }: ItemProps) {
  return (
    <Command.Item
      value={value}
      onSelect={onSelect}
      className="flex cursor-pointer items-baseline gap-1.5 rounded-sm px-2 py-1.5 data-[selected=true]:bg-copper-wash"
    >
      {children}
    </Command.Item>
  );
}

/** Whether every word that was typed is in these. */
export const holds = (words: string, typed: string) =>
  typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => words.toLowerCase().includes(word));

/** What was typed, once typing rests. */
export function useSettledText(text: string): string {
  const [settled, setSettled] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text.trim()), 120);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}
