import { expect, test } from 'vitest';
import { paint, stretched, type Mark } from '@/features/field/work/drawing/marks';

/** Notes where a canvas is drawn on. */
function noting() {
  const calls: [string, ...number[]][] = [];
  const texts: string[] = [];
  const note =
    (name: string) =>
    (...values: unknown[]) => {
      calls.push([name, ...values.filter((value): value is number => typeof value === 'number')]);
      if (typeof values[0] === 'string') texts.push(values[0]);
    };
  const names = ['beginPath', 'moveTo', 'lineTo', 'ellipse', 'stroke', 'strokeText', 'fillText'];
  const canvas = Object.fromEntries(names.map((name) => [name, note(name)]));
  return { canvas: canvas as never, calls, texts };
}

test('marks are drawn where they were made, at any size of the photo', () => {
  const marks: Mark[] = [
    {
      kind: 'circle',
      points: [
        [0.25, 0.25],
        [0.75, 0.75],
      ],
    },
    { kind: 'text', points: [[0.5, 0.1]], words: 'worn' },
  ];
  for (const [width, height] of [
    [400, 200],
    [1600, 800],
  ] as const) {
    const { canvas, calls, texts } = noting();
    paint(canvas, marks, width, height);
    expect(calls.find(([name]) => name === 'ellipse')!.slice(1, 5)).toEqual([
      width / 2,
      height / 2,
      width / 4,
      height / 4,
    ]);
    expect(calls.filter(([name]) => name === 'fillText')[0]!.slice(1)).toEqual([width / 2, height * 0.1]);
    expect(texts).toEqual(['worn', 'worn']);
  }
});

test('an arrow points to where the finger went, with two barbs behind its head', () => {
  const { canvas, calls } = noting();
  paint(
    canvas,
    [
      {
        kind: 'arrow',
        points: [
          [0, 0.5],
          [1, 0.5],
        ],
      },
    ],
    100,
    100,
  );
  const lines = calls.filter(([name]) => name === 'lineTo').slice(0, 3);
  expect(lines[0]).toEqual(['lineTo', 100, 50]);
  expect(lines.slice(1).every(([, x]) => x! < 100)).toBe(true);
  expect(lines[1]![2]! + lines[2]![2]!).toBeCloseTo(100);
});

test('a line goes along with the finger, the others stretch from where they began', () => {
  const line = stretched({ kind: 'line', points: [[0, 0]] }, [0.5, 0.5]);
  expect(stretched(line, [1, 1]).points).toEqual([
    [0, 0],
    [0.5, 0.5],
    [1, 1],
  ]);
  const circle = stretched({ kind: 'circle', points: [[0, 0]] }, [0.5, 0.5]);
  expect(stretched(circle, [1, 1]).points).toEqual([
    [0, 0],
    [1, 1],
  ]);
  expect(stretched({ kind: 'text', points: [[0, 0]], words: 'x' }, [1, 1]).points).toEqual([[1, 1]]);
});

test('a tap of the pencil is a dot', () => {
  const { canvas, calls } = noting();
  paint(canvas, [{ kind: 'line', points: [[0.5, 0.5]] }], 10, 10);
  expect(calls.filter(([name]) => name === 'lineTo')[0]).toEqual(['lineTo', 5, 5]);
});
