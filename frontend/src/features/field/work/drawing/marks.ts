/** What is drawn on a photo. Places are shares of its width and height: they hold at any size. */
export interface Mark {
  kind: Tool;
  points: Point[];
  /** Of a text. */
  words?: string;
}

export type Tool = 'arrow' | 'circle' | 'line' | 'text';
export type Point = readonly [x: number, y: number];

/** Seen on a dark shaft as well as on a white wall. */
const COLOUR = '#e0401b';
const EDGE = '#ffffff';
/** Widths are shares of the longer side. */
const WIDTH = 0.008;
const HEAD = 0.04;
const LETTERS = 0.045;

type Canvas = Pick<
  CanvasRenderingContext2D,
  | 'beginPath'
  | 'moveTo'
  | 'lineTo'
  | 'ellipse'
  | 'stroke'
  | 'strokeText'
  | 'fillText'
  | 'lineWidth'
  | 'lineCap'
  | 'lineJoin'
  | 'strokeStyle'
  | 'fillStyle'
  | 'font'
  | 'textAlign'
  | 'textBaseline'
>;

/** Draws marks on a picture of so many dots. */
export function paint(canvas: Canvas, marks: readonly Mark[], width: number, height: number) {
  const long = Math.max(width, height);
  canvas.lineCap = 'round';
  canvas.lineJoin = 'round';
  for (const mark of marks) {
    const points = mark.points.map(([x, y]) => [x * width, y * height] as const);
    if (mark.kind === 'text') letters(canvas, points[0]!, mark.words ?? '', long);
    else
      // A light edge first, so that the colour stands out from whatever is behind it.
      for (const [colour, wide] of [
        [EDGE, 2],
        [COLOUR, 1],
      ] as const) {
        canvas.strokeStyle = colour;
        canvas.lineWidth = WIDTH * long * wide;
        canvas.beginPath();
        SHAPES[mark.kind](canvas, points, long);
        canvas.stroke();
      }
  }
}

type Shape = (canvas: Canvas, points: readonly Point[], long: number) => void;
const SHAPES: Record<Exclude<Tool, 'text'>, Shape> = {
  line(canvas, points) {
    const [first, ...rest] = points;
    canvas.moveTo(...first!);
    // A tap is a dot.
    for (const point of rest.length > 0 ? rest : [first!]) canvas.lineTo(...point);
  },
  circle(canvas, points) {
    const [[ax, ay], [bx, by]] = [points[0]!, points.at(-1)!];
    canvas.ellipse(
      (ax + bx) / 2,
      (ay + by) / 2,
      Math.abs(bx - ax) / 2,
      Math.abs(by - ay) / 2,
      0,
      0,
      2 * Math.PI,
    );
  },
  arrow(canvas, points, long) {
    const [[ax, ay], [bx, by]] = [points[0]!, points.at(-1)!];
    const along = Math.atan2(by - ay, bx - ax);
    canvas.moveTo(ax, ay);
    canvas.lineTo(bx, by);
    for (const side of [-1, 1]) {
      canvas.moveTo(bx, by);
      const way = along + Math.PI + (side * Math.PI) / 6;
      canvas.lineTo(bx + HEAD * long * Math.cos(way), by + HEAD * long * Math.sin(way));
    }
  },
};

function letters(canvas: Canvas, [x, y]: Point, words: string, long: number) {
  canvas.font = `bold ${LETTERS * long}px "Atkinson Hyperlegible Next Variable", sans-serif`;
  canvas.textAlign = 'center';
  canvas.textBaseline = 'middle';
  canvas.lineWidth = LETTERS * long * 0.25;
  canvas.strokeStyle = EDGE;
  canvas.strokeText(words, x, y);
  canvas.fillStyle = COLOUR;
  canvas.fillText(words, x, y);
}

/** A mark while a finger moves: a line goes along, the others stretch from where they began. */
export function stretched(mark: Mark, to: Point): Mark {
  if (mark.kind === 'line') return { ...mark, points: [...mark.points, to] };
  if (mark.kind === 'text') return { ...mark, points: [to] };
  return { ...mark, points: [mark.points[0]!, to] };
}
