import { lazy, Suspense } from 'react';
import type { AreaEditorProps } from './model';

const AreaDrawing = lazy(() => import('./AreaDrawing'));

/** A map to draw areas on. Loaded only when shown. */
export function AreaEditor(props: AreaEditorProps) {
  return (
    <Suspense
      fallback={
        <div className="grid h-full place-items-center bg-wash text-sm text-ink-soft">Drawing the map…</div>
      }
    >
      <AreaDrawing {...props} />
    </Suspense>
  );
}
