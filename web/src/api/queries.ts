// What has been asked of the server, kept for all screens.

import {
  type InvalidateOptions,
  type InvalidateQueryFilters,
  QueryClient,
  type QueryKey,
} from "@tanstack/react-query";
import { onSessionEnded } from "./again";
import { mayRetry } from "./client";
import { keys } from "./keys";

// A session that has ended is found out by whatever is asked next: then one signs in again.
onSessionEnded(() => queries.invalidateQueries({ queryKey: keys.session }));

/** What an act made out of date is asked anew, also where the first answer is still on its way. */
export class Queries extends QueryClient {
  override async invalidateQueries<Key extends QueryKey>(
    filters: InvalidateQueryFilters<Key> = {},
    options: InvalidateOptions = {},
  ) {
    const isFirst: InvalidateQueryFilters<Key>["predicate"] = (query) =>
      query.state.data === undefined &&
      query.state.fetchStatus === "fetching" &&
      (filters.predicate?.(query) ?? true);
    await this.cancelQueries({ ...filters, predicate: isFirst });
    return super.invalidateQueries(filters, options);
  }
}

/** Milliseconds in which an answer is not asked for again by itself, as while a page still opens. */
const JUST_NOW = 1000;

export const queries = new Queries({
  defaultOptions: {
    queries: { staleTime: JUST_NOW, retry: mayRetry, retryDelay: 1500, networkMode: "always" },
    mutations: { retry: false, networkMode: "always" },
  },
});

/** Show what an act answered; what was asked before it, and is still on its way, is older. */
export async function takeOver<Data>(
  queryKey: QueryKey,
  answered: Data | ((before: Data | undefined) => Data | undefined),
  client: QueryClient = queries,
) {
  await client.cancelQueries({ queryKey, exact: true });
  client.setQueryData<Data>(queryKey, answered as Data);
}
