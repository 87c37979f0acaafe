// What has been asked of the server, kept for all screens.
import { MutationCache, QueryCache, QueryClient } from "@tanstack/react-query";
import { mayRetry, Refused } from "./client";

/** A session that has ended is found out by whatever is asked next: then one signs in again. */
const NOT_SIGNED_IN = 401;
function onError(error: unknown) {
  if (error instanceof Refused && error.problem.status === NOT_SIGNED_IN)
    queries.invalidateQueries({ queryKey: ["session"] });
}

export const queries = new QueryClient({
  queryCache: new QueryCache({ onError }),
  mutationCache: new MutationCache({ onError }),
  defaultOptions: {
    queries: { retry: mayRetry, retryDelay: 1500, networkMode: "always" },
    mutations: { retry: false, networkMode: "always" },
  },
});
