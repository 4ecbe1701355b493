import { useEffect, useRef } from 'react';
import Pad from 'signature_pad';
import { Button } from './Button';

interface Props {
  label: string;
  /** The drawing as a PNG in a data address; null: there is none. */
  onDraw: (picture: string | null) => void;
  className?: string;
}

/** Sign with a finger or the mouse. */
export function SignaturePad({ label, onDraw, className = 'h-32' }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<Pad | null>(null);
  useEffect(() => {
    const drawn = canvas.current!;
    drawn.width = drawn.offsetWidth;
    drawn.height = drawn.offsetHeight;
    const made = new Pad(drawn, { backgroundColor: 'rgb(255,255,255)', penColor: 'rgb(34,38,42)' });
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
        {label}
        <Button rank="quiet" onClick={clear}>
          Clear
        </Button>
      </p>
      <canvas
        ref={canvas}
        aria-label="Signature"
        className={`${className} w-full touch-none rounded-sm border border-hairline bg-white`}
      />
    </div>
  );
}
