import { queryOptions } from '@tanstack/react-query';

/** How much of the room that the browser gives this page is used, in bytes; `lasting`: it is never cleared away by itself. */
export interface Room {
  used: number;
  all: number;
  lasting: boolean;
}

const WARNED_AT = 0.8;

export const short = ({ used, all }: Pick<Room, 'used' | 'all'>) => all > 0 && used / all >= WARNED_AT;

/** Asks the browser not to clear away what is here, and how much room there is. Null where it does not say. */
export async function room(): Promise<Room | null> {
  if (!navigator.storage?.estimate) return null;
  const lasting = (await navigator.storage.persist?.().catch(() => false)) ?? false;
  const { usage = 0, quota = 0 } = await navigator.storage.estimate();
  return { used: usage, all: quota, lasting };
}

export const roomQuery = queryOptions({
  queryKey: ['room'],
  queryFn: room,
  networkMode: 'always',
  staleTime: 60_000,
});

export function megabytes(bytes: number): string {
  const many = bytes / 1_000_000;
  if (many >= 1_000) return `${(many / 1_000).toFixed(1)} GB`;
  if (many < 0.1) return `${Math.ceil(bytes / 1_000)} kB`;
  return `${many >= 10 ? Math.round(many) : many.toFixed(1)} MB`;
}
