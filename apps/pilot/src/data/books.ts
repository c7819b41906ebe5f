import { useQuery } from '@tanstack/react-query';
import { allBooks } from '@yare/books';

/** The drive books, fetched when a page first needs them: the plant does not. */
export const useBooks = () =>
  useQuery({
    queryKey: ['books'],
    queryFn: async () => {
      await import('@yare/books/all');
      return true;
    },
    staleTime: Infinity,
    gcTime: Infinity,
    initialData: () => (allBooks().length > 0 ? true : undefined),
  });
