// What has been asked of the server, kept for all screens.
import { QueryClient } from "@tanstack/react-query";
import { mayRetry } from "./client";

export const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: mayRetry, retryDelay: 1500, networkMode: "always" },
    mutations: { retry: false, networkMode: "always" },
  },
});
