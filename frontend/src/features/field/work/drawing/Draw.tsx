import { Circle, MoveUpRight, Pencil, Type, Undo2 } from 'lucide-react';
import { useEffect, useRef, useState, type PointerEvent, type ReactNode } from 'react';
import { Button } from '@/design/Button';
import { paint, stretched, type Mark, type Point, type Tool } from './marks';

const TOOLS: { tool: Tool; words: string; icon: ReactNode }[] = [
  { tool: 'arrow', words: 'Arrow', icon: <MoveUpRight size={22} /> },
  { tool: 'circle', words: 'Circle', icon: <Circle size={22} /> },
  { tool: 'line', words: 'Freehand', icon: <Pencil size={22} /> },
  { tool: 'text', words: 'Text', icon: <Type size={22} /> },
];
const QUALITY = 0.85;

interface Props {
  /** Where the photo is fetched from: this phone, or the office. */
  src: string;
  /** What was drawn, on the photo, as a JPEG in a data address. */
  onDone: (drawn: string) => void;
  onLeave: () => void;
}

/** Draw on a photo with a finger. The photo itself stays as it is. */
export function Draw({ src, onDone, onLeave }: Props) {
  const [marks, setMarks] = useState<Mark[]>([]);
  const [tool, setTool] = useState<Tool>('arrow');
  const [words, setWords] = useState('');
  const { canvas, size } = usePicture(src, marks);
  const drawing = useDrawing(tool, words, setMarks);
  const write = () => {
    if (words.trim()) setMarks([...marks, { kind: 'text', points: [[0.5, 0.5]], words: words.trim() }]);
  };
  return (
    <div role="dialog" aria-label="Draw on the photo" className="fixed inset-0 z-20 flex flex-col bg-ink">
      <div className="grid min-h-0 flex-1 place-items-center p-2">
        <canvas
          ref={canvas}
          aria-label="The photo with what is drawn on it"
          width={size?.width ?? 0}
          height={size?.height ?? 0}
          className="max-h-full max-w-full touch-none"
          {...drawing}
        />
      </div>
      {tool === 'text' && (
        <div className="flex gap-2 bg-paper px-3 pt-3">
          <input
            aria-label="What to write"
            placeholder="What to write"
            value={words}
            onChange={(event) => setWords(event.target.value)}
            className="min-h-14 min-w-0 flex-1 rounded-sm border border-hairline bg-sheet px-3 text-lg"
          />
          <Button size="thumb" disabled={!words.trim()} onClick={write}>
            Write it
          </Button>
        </div>
      )}
      <Tools
        tool={tool}
        onTool={setTool}
        canUndo={marks.length > 0}
        onUndo={() => setMarks(marks.slice(0, -1))}
      />
      <div className="grid grid-cols-[1fr_2fr] gap-2 bg-paper p-3">
        <Button size="thumb" rank="quiet" onClick={onLeave}>
          Leave
        </Button>
        <Button
          size="thumb"
          rank="main"
          disabled={marks.length === 0}
          onClick={() => onDone(canvas.current!.toDataURL('image/jpeg', QUALITY))}
        >
          Keep the drawing
        </Button>
      </div>
    </div>
  );
}

interface ToolsProps {
  tool: Tool;
  onTool: (tool: Tool) => void;
  canUndo: boolean;
  onUndo: () => void;
}

const Tools = ({ tool, onTool, canUndo, onUndo }: ToolsProps) => (
  <div className="grid grid-cols-5 gap-1 bg-paper px-3 pt-3">
    {TOOLS.map((each) => (
      <button
        key={each.tool}
        type="button"
        aria-pressed={tool === each.tool}
        onClick={() => onTool(each.tool)}
        className={`flex min-h-14 flex-col items-center justify-center rounded-sm border-2 text-xs ${tool === each.tool ? 'border-copper bg-copper-wash' : 'border-hairline'}`}
      >
        {each.icon} {each.words}
      </button>
    ))}
    <button
      type="button"
      disabled={!canUndo}
      onClick={onUndo}
      className="flex min-h-14 flex-col items-center justify-center rounded-sm border-2 border-hairline text-xs disabled:opacity-50"
    >
      <Undo2 size={22} /> Undo
    </button>
  </div>
);

/** The photo on a canvas of its own size, with the marks on it. */
function usePicture(src: string, marks: readonly Mark[]) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [photo, setPhoto] = useState<HTMLImageElement | null>(null);
  useEffect(() => {
    const image = new Image();
    image.onload = () => setPhoto(image);
    image.src = src;
  }, [src]);
  const size = photo && { width: photo.naturalWidth, height: photo.naturalHeight };
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !photo) return;
    context.drawImage(photo, 0, 0);
    paint(context, marks, photo.naturalWidth, photo.naturalHeight);
  }, [photo, marks, size?.width, size?.height]);
  return { canvas, size };
}

/** What a finger does on the photo. */
function useDrawing(tool: Tool, words: string, setMarks: (change: (marks: Mark[]) => Mark[]) => void) {
  const under = useRef(false);
  const at = (event: PointerEvent<HTMLCanvasElement>): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  };
  return {
    onPointerDown: (event: PointerEvent<HTMLCanvasElement>) => {
      if (tool === 'text' && !words.trim()) return;
      under.current = true;
      event.currentTarget.setPointerCapture(event.pointerId);
      const mark: Mark = {
        kind: tool,
        points: [at(event)],
        ...(tool === 'text' ? { words: words.trim() } : {}),
      };
      setMarks((marks) => [...marks, mark]);
    },
    onPointerMove: (event: PointerEvent<HTMLCanvasElement>) => {
      if (!under.current) return;
      const to = at(event);
      setMarks((marks) => [...marks.slice(0, -1), stretched(marks.at(-1)!, to)]);
    },
    onPointerUp: () => {
      under.current = false;
    },
    onPointerCancel: () => {
      under.current = false;
    },
  };
}
