import { Button } from '@/design/Button';

interface Props {
  /** What an infinite query says of the pages to come. */
  pages: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };
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
