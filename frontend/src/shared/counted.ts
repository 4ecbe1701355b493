// Lists that are typed as lines: "2 Door roller".

export const linesOf = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

/** "2 Door roller" as a count and words; without a number it is one. */
export function counted(line: string): { words: string; count: number } {
  const found = /^(\d+)\s*[x×]?\s+(.+)$/.exec(line);
  return found ? { words: found[2]!, count: Number(found[1]) } : { words: line, count: 1 };
}

/** Quantities by name from lines. A name that comes twice is added up. */
export function fromLines(text: string): Record<string, number> {
  const found: Record<string, number> = {};
  for (const { words, count } of linesOf(text).map(counted)) found[words] = (found[words] ?? 0) + count;
  return found;
}
