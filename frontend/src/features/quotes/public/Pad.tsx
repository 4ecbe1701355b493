import { useEffect, useRef } from 'react';
import SignaturePad from 'signature_pad';
import { Button } from '@/design/Button';

/** Sign with a finger or the mouse; a name alone will do, too. */
export function Pad({ onDraw }: { onDraw: (picture: string | null) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<SignaturePad | null>(null);
  useEffect(() => {
    const drawn = canvas.current!;
    drawn.width = drawn.offsetWidth;
    drawn.height = drawn.offsetHeight;
    const made = new SignaturePad(drawn, { backgroundColor: 'rgb(255,255,255)', penColor: 'rgb(34,38,42)' });
    made.addEventListener('endStroke', () => onDraw(made.toDataURL('image/png')));
    pad.current = made;
    return () => made.off();
  }, [onDraw]);
  const clear = () => {
    pad.current?.clear();
    onDraw(null);
  };
  return (
    <div>
      <p className="flex items-center justify-between text-xs font-semibold text-ink-soft">
        Sign here, if you like
        <Button rank="quiet" onClick={clear}>
          Clear
        </Button>
      </p>
      <canvas
        ref={canvas}
        aria-label="Signature"
        className="h-32 w-full touch-none rounded-sm border border-hairline bg-white"
      />
    </div>
  );
}
