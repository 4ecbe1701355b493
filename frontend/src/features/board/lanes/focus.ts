import type { KeyboardEvent } from 'react';

/** Arrows walk from visit to visit: sideways along the line, up and down to the nearest on the next line. */
export function moveFocus(event: KeyboardEvent<HTMLElement>) {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  if (by === undefined) return;
  event.preventDefault();
  const all = [...document.querySelectorAll<HTMLElement>('button[data-visit]')];
  const sideways = event.key === 'ArrowRight' || event.key === 'ArrowLeft';
  const target = sideways
    ? all[all.indexOf(event.currentTarget) + by]
    : inNextRow(all, event.currentTarget, by);
  target?.focus();
}

function inNextRow(all: HTMLElement[], from: HTMLElement, by: number): HTMLElement | undefined {
  const box = from.getBoundingClientRect();
  const candidates = all.filter((other) => (other.getBoundingClientRect().top - box.top) * by > 8);
  candidates.sort((a, b) => cost(a, box) - cost(b, box));
  return candidates[0];
}

function cost(element: HTMLElement, from: DOMRect): number {
  const box = element.getBoundingClientRect();
  return Math.abs(box.top - from.top) * 10 + Math.abs(box.left - from.left);
}

/** The visits whose signs lie in a rectangle of the screen. */
export function visitsWithin(from: { x: number; y: number }, to: { x: number; y: number }): number[] {
  const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
  const [top, bottom] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
  return [...document.querySelectorAll<HTMLElement>('[data-lane] button[data-visit]')]
    .filter((element) => {
      const box = element.getBoundingClientRect();
      return box.right >= left && box.left <= right && box.bottom >= top && box.top <= bottom;
    })
    .map((element) => Number(element.dataset.visit));
}
