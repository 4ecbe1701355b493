import { useRef, type ReactNode } from 'react';

export interface Section {
  /** What it is known by while others come and go: what is typed or shown in it stays. */
  name: string;
  /** What it is called in the row one jumps from; none: it is only passed by. */
  words?: string;
  content: ReactNode;
}

/** Everything about a visit, one below the other - nothing hides behind a tab - and a row to jump to each part. */
export function Sections({ sections }: { sections: Section[] }) {
  const scroller = useRef<HTMLDivElement>(null);
  const shown = sections.filter((section) => Boolean(section.content));
  const jump = (index: number) => {
    const part = scroller.current?.children[index] as HTMLElement | undefined;
    part?.scrollIntoView({ block: 'start' });
    part?.focus({ preventScroll: true });
  };
  return (
    <>
      <nav
        aria-label="Parts of the details"
        className="flex flex-wrap gap-x-2.5 border-b border-hairline px-3"
      >
        {shown.map(
          ({ words }, index) =>
            words && (
              <button
                key={words}
                type="button"
                className="py-1 text-xs text-ink-soft hover:text-ink hover:underline"
                onClick={() => jump(index)}
              >
                {words}
              </button>
            ),
        )}
      </nav>
      <div ref={scroller} className="min-h-0 flex-1 space-y-4 overflow-y-auto p-3">
        {shown.map(({ name, content }) => (
          <div key={name} tabIndex={-1} className="scroll-mt-1 outline-none empty:hidden">
            {content}
          </div>
        ))}
      </div>
    </>
  );
}
