import { useEffect, useId, useRef } from 'react';
import { Problem, sentenceOf } from '@/api/client';
import { Notice } from './Notice';

/**
 * Why a form was refused. The field it is about (found by its name) is brought into view and into focus and is marked, so
 * that a screen reader says both; without one the message itself is brought into view.
 */
export function FormError({ error }: { error: unknown }) {
  const place = useRef<HTMLDivElement>(null);
  const id = useId();
  useEffect(() => {
    if (error) return showWrong(place.current, id, error instanceof Problem ? error.field : '');
  }, [error, id]);
  if (!error) return null;
  return (
    <div ref={place} id={id}>
      <Notice tone="bad">{sentenceOf(error)}</Notice>
    </div>
  );
}

/** After a look at a form that found something: to the first field that is wrong. */
export function focusFirstWrong(form: ParentNode = document) {
  window.setTimeout(() => {
    const field = form.querySelector<HTMLElement>('[aria-invalid="true"]');
    if (field) bringUp(field);
  });
}

function showWrong(place: HTMLElement | null, id: string, name: string): (() => void) | undefined {
  const field = name
    ? place?.closest('form')?.querySelector<HTMLElement>(`[name="${CSS.escape(name)}"]`)
    : undefined;
  if (!field) {
    place?.scrollIntoView({ block: 'nearest' });
    return undefined;
  }
  const told = field.getAttribute('aria-describedby');
  field.setAttribute('aria-invalid', 'true');
  field.setAttribute('aria-describedby', id);
  bringUp(field);
  const clear = () => {
    field.removeAttribute('aria-invalid');
    if (told) field.setAttribute('aria-describedby', told);
    else field.removeAttribute('aria-describedby');
    field.removeEventListener('input', clear);
  };
  field.addEventListener('input', clear);
  return clear;
}

function bringUp(field: HTMLElement) {
  const folded = field.closest('details');
  if (folded) folded.open = true;
  field.scrollIntoView({ block: 'center' });
  field.focus();
}
