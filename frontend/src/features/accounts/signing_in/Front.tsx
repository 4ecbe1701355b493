import type { ReactNode } from 'react';

/** The pages before one is in: the product's sign, its name, and one thing to do. */
export function Front({ children, beside }: { children: ReactNode; beside?: ReactNode }) {
  return (
    <main className="mx-auto grid min-h-full max-w-4xl content-center gap-10 p-6 md:grid-cols-2">
      <section>
        <Line />
        <h1 className="mt-5 text-4xl font-bold tracking-tight">Iron Relay</h1>
        <p className="mt-2 max-w-sm text-ink-soft">
          From the caller to the office to the van and back: every promise handed on, none dropped.
        </p>
        <div className="mt-6 max-w-sm">{children}</div>
      </section>
      {beside}
    </main>
  );
}

/** The product's own sign: a day as a line with stations on it. */
function Line() {
  return (
    <svg viewBox="0 0 260 40" className="w-64" aria-hidden>
      <path d="M4 26h30M78 26h40M170 26h24M238 26h18" stroke="var(--ink)" strokeWidth="2.5" />
      <path d="M4 18v16M256 18v16" stroke="var(--ink)" strokeWidth="2.5" />
      <rect x="34" y="16" width="44" height="20" fill="var(--wash)" stroke="var(--ink)" />
      <rect x="118" y="16" width="52" height="20" fill="var(--ink)" />
      <rect x="194" y="16" width="44" height="20" fill="none" stroke="var(--ink)" strokeDasharray="4 3" />
      <circle cx="144" cy="6" r="5" fill="var(--copper)" />
    </svg>
  );
}
