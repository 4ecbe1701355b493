import { useEffect, useState } from 'react';

// The front end takes its time from the server, whose clock may be set (demo, tests).
let offset = 0;

/** Learn the server's time, in epoch seconds. */
export function setServerNow(now: number) {
  offset = now - Date.now() / 1000;
}

/** Seconds that the server's clock is ahead of this device's. */
export const serverAhead = () => offset;

/** The same as it was known before, where the server cannot be asked. */
export function setServerAhead(seconds: number) {
  offset = seconds;
}

/** The server's time now, in epoch seconds. */
export function serverNow(): number {
  return Math.floor(Date.now() / 1000 + offset);
}

/** What the device's own clock says, in milliseconds: kept beside the server's time where both are of interest. */
export const deviceNow = () => Date.now();

/** The server's time, renewed every `seconds`. */
export function useNow(seconds = 15): number {
  const [now, setNow] = useState(serverNow);
  useEffect(() => {
    const timer = setInterval(() => setNow(serverNow()), seconds * 1000);
    return () => clearInterval(timer);
  }, [seconds]);
  return now;
}
