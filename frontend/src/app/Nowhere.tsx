import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';

/** For an address that leads nowhere. */
export function NotHere() {
  return (
    <div className="p-8">
      <h1 className="text-xl font-semibold">There is nothing at this address.</h1>
      <a className="underline" href="/">
        To the start
      </a>
    </div>
  );
}

/** For a page that cannot be drawn. */
export function Broken({ error }: { error: unknown }) {
  return (
    <div className="max-w-lg space-y-3 p-8" role="alert">
      <h1 className="text-xl font-semibold">This page broke.</h1>
      <p className="text-ink-soft">{sentenceOf(error)}</p>
      <Button onClick={() => window.location.reload()}>Load it again</Button>
    </div>
  );
}
