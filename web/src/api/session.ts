// Who is signed in.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, keepToken, type Schemas } from "./client";

export type Visitor = Schemas["Visitor"];
export type Right = Visitor["rights"][number];

export const visitorQuery = {
  queryKey: ["session"],
  queryFn: async () => {
    const visitor = await answer(client.GET("/api/session"));
    keepToken(visitor.token);
    return visitor;
  },
  staleTime: Number.POSITIVE_INFINITY,
};

export const useVisitor = () => useQuery(visitorQuery);

export function useMay(right: Right) {
  return useVisitor().data?.rights.includes(right) ?? false;
}

function useArrival(call: (body: { name: string; password: string }) => Promise<Visitor>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: call,
    onSuccess: (visitor) => {
      keepToken(visitor.token);
      queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
      queries.setQueryData(["session"], visitor);
    },
  });
}

export const useSignIn = () => useArrival((body) => answer(client.POST("/api/session", { body })));

export const useSignOut = () => {
  const leaving = useArrival(() => answer(client.DELETE("/api/session")));
  return () => leaving.mutate({ name: "", password: "" });
};
