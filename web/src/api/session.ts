// Who is signed in.

import { useMutation, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { forgetAllOf } from "../ui/kept";
import { ownerName, setOwner } from "../ui/owner";
import { chooseTheme } from "../ui/theme";
import { writeAs } from "../ui/written";
import { arrived } from "./again";
import { answer, client, keepToken, type Schemas } from "./client";
import { keys } from "./keys";
import { queries, takeOver } from "./queries";

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
  queries.invalidateQueries({ queryKey: keys.session });
};

/** The screens look, and write, as whoever is here likes it. */
function show(visitor: Visitor) {
  chooseTheme(visitor.settings.theme);
  writeAs(visitor.settings);
}

/** Somebody is here, or nobody: what was asked for the one before is not shown any more. */
function receive(visitor: Visitor) {
  const name = visitor.name ?? "";
  keepToken(visitor.token);
  if (name) show(visitor);
  const same = name === ownerName();
  arrived(same && name !== "");
  if (same) return;
  setOwner(name);
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== keys.session[0] });
}

/** Whoever is here; after a session has ended, whoever was, until somebody signs in. */
export type Here = Visitor & { ended: boolean };

export const visitorQuery = {
  queryKey: keys.session,
  queryFn: async (): Promise<Here> => {
    const visitor = await answer(client.GET("/api/v1/session"));
    const before = queries.getQueryData<Here>(["session"]);
    if (!visitor.name && before?.name && before.name === ownerName()) {
      keepToken(visitor.token);
      return { ...before, ended: true };
    }
    receive(visitor);
    return { ...visitor, ended: false };
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

/** What may be done in any form, by its key. */
export function useRightsIn(): (formKey: string) => readonly Right[] {
  const visitor = useVisitor().data;
  return (formKey) => visitor?.form_rights[formKey] ?? visitor?.rights ?? [];
}

export function useMay(right: Right) {
  return useRights().includes(right);
}

/** Take what the server says of who is here now. */
export function useArrived() {
  return (visitor: Visitor) => {
    takeOver(keys.session, { ...visitor, ended: false });
    receive(visitor);
  };
}

function useArrival(call: (body: { name: string; password: string }) => Promise<Visitor>) {
  return useMutation({
    mutationFn: call,
    onSuccess: (visitor) => {
      otherTabs.postMessage({ left: visitor.name ? "" : ownerName() });
      receive(visitor);
      return takeOver(keys.session, { ...visitor, ended: false });
    },
  });
}

/** How the screens look, and a way to choose it, kept with the account. */
export function useSettings() {
  const settings = useVisitor().data?.settings;
  const choose = useMutation({
    mutationFn: (body: Visitor["settings"]) =>
      // It is stored also by whoever leaves the page at once.
      answer(client.PUT("/api/v1/session/settings", { body, keepalive: true })),
    onSuccess: (visitor) => {
      takeOver(keys.session, { ...visitor, ended: false });
      receive(visitor);
      // What the server has written for this person is written anew.
      return queries.invalidateQueries({
        predicate: ({ queryKey }) => queryKey[0] !== keys.session[0],
      });
    },
    onError: () => queries.invalidateQueries({ queryKey: keys.session }),
  });
  return {
    settings,
    error: choose.error,
    choose: (chosen: Partial<Visitor["settings"]>) => {
      if (!settings) return;
      const next = { ...settings, ...chosen };
      // Shown at once; where it cannot be stored, what is stored comes back.
      queries.setQueryData<Here>(["session"], (here) => here && { ...here, settings: next });
      chooseTheme(next.theme);
      choose.mutate(next);
    },
  };
}

/** After a session has ended: nobody comes back to it here. */
export function useGiveUp() {
  return () => {
    setOwner("");
    arrived(false);
    queries.removeQueries({ predicate: (query) => query.queryKey[0] !== keys.session[0] });
    return queries.invalidateQueries({ queryKey: keys.session });
  };
}

export const useSignIn = () =>
  useArrival((body) => answer(client.POST("/api/v1/session", { body })));

export const useSignOut = (then: () => void) => {
  const leaving = useArrival(async () => {
    const leaver = ownerName();
    const visitor = await answer(client.DELETE("/api/v1/session"));
    // Whoever leaves leaves nothing behind; a session that merely ended keeps what was typed.
    forgetAllOf(leaver);
    return visitor;
  });
  return () => leaving.mutate({ name: "", password: "" }, { onSuccess: then });
};
