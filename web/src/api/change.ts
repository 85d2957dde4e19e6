/** Changes on the server, each beside the queries that it makes stale. */
import { useMutation, useQueryClient } from "@tanstack/react-query";

/** Changes that name one `order` reach the server one after the other, as they were made. */
export function useChange<Given, Result>(
  run: (given: Given) => Promise<Result>,
  stale: readonly string[],
  order?: string,
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: run,
    ...(order === undefined ? {} : { scope: { id: order } }),
    onSuccess: () => Promise.all(stale.map((key) => client.invalidateQueries({ queryKey: [key] }))),
  });
}

/** What never changes while the page is open. */
export const steady = { staleTime: Infinity } as const;
