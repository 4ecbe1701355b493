import type { SchemaLamp } from '@/api/types';

const WORDS: Record<SchemaLamp, string> = {
  dark: 'promise safe',
  watch: 'promise tight',
  broken: 'promise broken',
};

/** How safe a promise is, by shape as well as colour: a small ring, a half-filled ring, a filled cross. */
export function Lamp({ lamp, size = 12 }: { lamp: SchemaLamp; size?: number }) {
  const label = WORDS[lamp];
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" role="img" aria-label={label} className="shrink-0">
      <title>{label}</title>
      {lamp === 'dark' && (
        <circle cx="6" cy="6" r="3" fill="none" stroke="var(--ink-soft)" strokeWidth="1.2" />
      )}
      {lamp === 'watch' && (
        <>
          <circle cx="6" cy="6" r="4.4" fill="var(--warn-wash)" stroke="var(--warn)" strokeWidth="1.4" />
          <path d="M6 1.6a4.4 4.4 0 0 1 0 8.8z" fill="var(--warn)" />
        </>
      )}
      {lamp === 'broken' && (
        <>
          <circle cx="6" cy="6" r="5.6" fill="var(--bad)" />
          <path d="M3.6 3.6l4.8 4.8m0-4.8l-4.8 4.8" stroke="var(--sheet)" strokeWidth="1.6" />
        </>
      )}
    </svg>
  );
}
