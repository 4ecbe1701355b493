import { describe, expect, test, vi } from 'vitest';
import { corrected, better, learned, WatchedClock } from '@/features/field/sync/clock';
import { Bell, keepSending, pauseAfter, type Round } from '@/features/field/sync/sender';

describe('pauses', () => {
  test('double up to a minute, and are not the same for all phones', () => {
    const half = () => 0.5;
    expect([1, 2, 3, 4].map((count) => pauseAfter(count, half))).toEqual([750, 1500, 3000, 6000]);
    expect(pauseAfter(50, () => 1)).toBe(60_000);
    expect(pauseAfter(50, () => 0)).toBe(30_000);
  });

  test('grow while nobody answers, and begin anew after a success', async () => {
    const rounds: Round[] = [
      'no answer',
      'no answer',
      'server is busy',
      'went on',
      'no answer',
      'nothing to send',
    ];
    const waits: number[] = [];
    let index = 0;
    await keepSending(
      { round: () => Promise.resolve(rounds[index++]!) },
      {
        wait: (milliseconds) => {
          waits.push(milliseconds);
          return Promise.resolve();
        },
        stopped: () => index === rounds.length,
        random: () => 1,
      },
    );
    expect(waits).toEqual([1000, 2000, 4000, 1000, 300_000]);
  });
});

describe('the bell', () => {
  test('wakes who waits, and who waits next when nobody did', async () => {
    const bell = new Bell();
    bell.ring();
    await bell.wait(60_000);
    const waiting = bell.wait(60_000);
    bell.ring();
    await waiting;
  });

  test('lets who waits go on after the time, and does not ring by itself', async () => {
    vi.useFakeTimers();
    const bell = new Bell();
    const done = vi.fn();
    void bell.wait(1000).then(done);
    await vi.advanceTimersByTimeAsync(999);
    expect(done).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(1);
    expect(done).toHaveBeenCalledOnce();
    void bell.wait(1000).then(done);
    await vi.advanceTimersByTimeAsync(999);
    expect(done).toHaveBeenCalledOnce();
    vi.useRealTimers();
  });
});

describe('the clock', () => {
  test('is corrected by half of what the answer took', () => {
    const offset = learned(1_000, 1_400, 7_201_200);
    expect(offset).toEqual({ ahead: 7_200_000, within: 200, learnedAt: 1_400 });
    expect(corrected(2_000, offset)).toBe(7_202_000);
    expect(corrected(2_000, null)).toBe(2_000);
  });

  test('a slow answer does not make what was known worse, unless the clock was set', () => {
    const sharp = learned(1_000, 1_020, 1_010);
    expect(better(sharp, learned(5_000, 9_000, 7_500))).toBe(sharp);
    const set = learned(5_000, 9_000, 90_000);
    expect(better(sharp, set)).toBe(set);
  });

  test('goes on when somebody sets the phone’s clock', () => {
    let wall = 50_000;
    let running = 10;
    const clock = new WatchedClock(
      () => wall,
      () => running,
      null,
    );
    clock.asking()(1_050_000);
    wall += 3_600_000 + 5_000; // set an hour ahead, five seconds later
    running += 5_000;
    expect(clock.now()).toEqual({ deviceAt: 3_655_000, happenedAt: 1_055_000 });
    const heard = vi.fn(clock.asking());
    running += 2;
    expect(heard(1_055_001).ahead).toBe(1_000_000);
  });
});
