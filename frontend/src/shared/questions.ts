/** A question of a checklist, or a field of the company's own. The server checks the answers. */
export interface Question {
  key: string;
  label: string;
  kind: 'text' | 'number' | 'choice' | 'yes_no' | 'date' | 'photo' | 'signature';
  required?: string;
  least?: number | null;
  most?: number | null;
  unit?: string;
  choices?: string[];
  shown_if?: [string, unknown] | null;
  hint?: string;
}

/** The questions that come up, given what was answered so far: a hidden one hides what hangs on it. */
export function asked(questions: Question[], answers: Record<string, unknown>): Question[] {
  const up: Question[] = [];
  for (const question of questions) {
    const [key, wanted] = question.shown_if ?? [null, null];
    const shown = key === null || (up.some((row) => row.key === key) && answers[key] === wanted);
    if (shown) up.push(question);
  }
  return up;
}
