import type { InfiniteData } from '@tanstack/react-query';

interface Page<Row> {
  rows: Row[];
  next: string | null;
}

/** Where the next page begins; nothing when there is none. */
export const nextOf = (page: { next: string | null }) => page.next ?? undefined;

/** The rows of all pages that were fetched. */
export const rowsOf = <Row>(data: InfiniteData<Page<Row>> | undefined): Row[] =>
  data?.pages.flatMap((page) => page.rows) ?? [];
