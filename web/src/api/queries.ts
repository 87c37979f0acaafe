// What has been asked of the server, kept for all screens.
import { QueryClient } from "@tanstack/react-query";
import { onSessionEnded } from "./again";
import { mayRetry } from "./client";

// A session that has ended is found out by whatever is asked next: then one signs in again.
onSessionEnded(() => queries.invalidateQueries({ queryKey: ["session"] }));

export const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: mayRetry, retryDelay: 1500, networkMode: "always" },
    mutations: { retry: false, networkMode: "always" },
  },
});
