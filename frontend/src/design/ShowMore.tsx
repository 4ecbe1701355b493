import { Button } from '@/design/Button';

/** What an infinite query says of the pages to come. */
export interface Pages {
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  fetchNextPage: () => unknown;
}

interface Props {
  pages: Pages;
  words?: string;
}

/** Below a list of which there is more than is shown. */
export function ShowMore({ pages, words = 'Show older ones' }: Props) {
  if (!pages.hasNextPage) return null;
  return (
    <Button disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
      {pages.isFetchingNextPage ? 'Fetching…' : words}
    </Button>
  );
}
