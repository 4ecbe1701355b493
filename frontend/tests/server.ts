// A server made of what a test says it answers. Whatever it was not told to answer is an error.

export interface Asked {
  method: string;
  path: string;
  /** What follows the question mark. */
  query: Record<string, string>;
  body: unknown;
}

type Answer = unknown | ((asked: Asked) => unknown);

/** Thrown by an answer: the server refuses, in words. */
export class Refusal {
  constructor(
    readonly status: number,
    readonly body: { code: string; title: string; field?: string; reasons?: string[] },
  ) {}
}

const answers = new Map<string, Answer>();
export let asked: Asked[] = [];

/** What the server answers from now on, by "METHOD /path" without the query. */
export function serve(wanted: Record<string, Answer>) {
  answers.clear();
  asked = [];
  for (const [key, value] of Object.entries(wanted)) answers.set(key, value);
}

/** What was asked of one address. */
export const askedOf = (key: string) => asked.filter((row) => `${row.method} ${row.path}` === key);

export async function answer(input: Request): Promise<Response> {
  const { pathname, searchParams } = new URL(input.url);
  const text = await input.clone().text();
  const query = Object.fromEntries(searchParams);
  const what = {
    method: input.method,
    path: pathname,
    query,
    body: text ? (JSON.parse(text) as unknown) : null,
  };
  asked.push(what);
  const key = `${what.method} ${pathname}`;
  if (!answers.has(key)) throw new Error(`nobody said what the server answers to ${key}`);
  const given = answers.get(key);
  try {
    return Response.json(
      await (typeof given === 'function' ? (given as (a: Asked) => unknown)(what) : given),
    );
  } catch (refusal) {
    if (!(refusal instanceof Refusal)) throw refusal;
    return Response.json(refusal.body, { status: refusal.status });
  }
}
