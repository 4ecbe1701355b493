import { render } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useIdle } from '@/app/idle';
import { askedOf, serve } from '../server';

const HERE = 'POST /api/v1/session/here';
const MINUTE = 60_000;

function Desk({ minutes, leave }: { minutes: number; leave: () => void }) {
  useIdle(minutes, leave);
  return null;
}

describe('whoever leaves the desk', () => {
  beforeEach(() => {
    vi.useFakeTimers();
    localStorage.clear();
    serve({ [HERE]: {} });
  });
  afterEach(() => vi.useRealTimers());

  it('is signed out after the minutes of the company, and not before', () => {
    const leave = vi.fn();
    render(<Desk minutes={10} leave={leave} />);
    vi.advanceTimersByTime(9 * MINUTE);
    window.dispatchEvent(new Event('keydown'));
    vi.advanceTimersByTime(9 * MINUTE);
    expect(leave).not.toHaveBeenCalled();
    vi.advanceTimersByTime(2 * MINUTE);
    expect(leave).toHaveBeenCalled();
  });

  it('stays while somebody works in another window', () => {
    const leave = vi.fn();
    render(<Desk minutes={10} leave={leave} />);
    vi.advanceTimersByTime(9 * MINUTE);
    localStorage.setItem('iron-relay.here', String(Date.now()));
    vi.advanceTimersByTime(9 * MINUTE);
    expect(leave).not.toHaveBeenCalled();
  });

  it('is told of once a minute, however much is typed', () => {
    render(<Desk minutes={10} leave={vi.fn()} />);
    for (let times = 0; times < 50; times++) window.dispatchEvent(new Event('keydown'));
    vi.advanceTimersByTime(2 * MINUTE);
    window.dispatchEvent(new Event('keydown'));
    expect(askedOf(HERE).length).toBeLessThanOrEqual(2);
  });

  it('is left alone where the company wants it so', () => {
    const leave = vi.fn();
    render(<Desk minutes={0} leave={leave} />);
    vi.advanceTimersByTime(600 * MINUTE);
    expect(leave).not.toHaveBeenCalled();
  });
});
