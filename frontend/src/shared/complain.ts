import { toast } from 'sonner';
import { Problem, sentenceOf } from '@/api/client';

/** Say what went wrong, and below it the reasons that the sentence does not already say. */
export function complain(error: unknown) {
  const sentence = sentenceOf(error);
  const reasons = error instanceof Problem ? error.reasons : [];
  const more = reasons.filter((reason) => !sentence.startsWith(reason));
  toast.error(sentence, { description: more.join(' · ') || undefined, duration: 8000 });
}
