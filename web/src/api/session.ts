// Who is signed in.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { forgetAllOf } from "../ui/kept";
import { ownerName, setOwner } from "../ui/owner";
import { answer, client, keepToken, type Schemas } from "./client";
import { queries } from "./queries";

export type Visitor = Schemas["Visitor"];
export type Right = Visitor["rights"][number];

/** Says to the other tabs of this browser that somebody has come or left. */
const otherTabs = new BroadcastChannel("session");
otherTabs.onmessage = ({ data }: MessageEvent<{ left: string }>) => {
  if (data.left) {
    // Who left on purpose finds nothing here, and is not told that a session has ended.
    if (data.left === ownerName()) setOwner("");
    forgetAllOf(data.left);
  }
  queries.invalidateQueries({ queryKey: ["session"] });
};

/** Somebody is here, or nobody: what was asked for the one before is not shown any more. */
function receive(visitor: Visitor) {
  const name = visitor.name ?? "";
  keepToken(visitor.token);
  if (name === ownerName()) return;
  setOwner(name);
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
}

export const visitorQuery = {
  queryKey: ["session"],
  queryFn: async () => {
    const before = ownerName();
    const visitor = await answer(client.GET("/api/session"));
    receive(visitor);
    // Whose session has ended without signing out.
    return { ...visitor, ended: visitor.name ? "" : before };
  },
  staleTime: Number.POSITIVE_INFINITY,
};

export const useVisitor = () => useQuery(visitorQuery);

/** What may be done: in the form one is in, or in all that say nothing else. */
export function useRights(): readonly Right[] {
  const { formKey } = useParams();
  const visitor = useVisitor().data;
  return (formKey && visitor?.form_rights[formKey]) || (visitor?.rights ?? []);
}

export function useMay(right: Right) {
  return useRights().includes(right);
}

/** Take what the server says of who is here now. */
export function useArrived() {
  return (visitor: Visitor) => {
    receive(visitor);
    queries.setQueryData(["session"], { ...visitor, ended: "" });
  };
}

function useArrival(call: (body: { name: string; password: string }) => Promise<Visitor>) {
  return useMutation({
    mutationFn: call,
    onSuccess: (visitor) => {
      otherTabs.postMessage({ left: visitor.name ? "" : ownerName() });
      receive(visitor);
      queries.setQueryData(["session"], { ...visitor, ended: "" });
    },
  });
}

export const useSignIn = () => useArrival((body) => answer(client.POST("/api/session", { body })));

export const useSignOut = (then: () => void) => {
  const leaving = useArrival(async () => {
    const leaver = ownerName();
    const visitor = await answer(client.DELETE("/api/session"));
    // Whoever leaves leaves nothing behind; a session that merely ended keeps what was typed.
    forgetAllOf(leaver);
    return visitor;
  });
  return () => leaving.mutate({ name: "", password: "" }, { onSuccess: then });
};
