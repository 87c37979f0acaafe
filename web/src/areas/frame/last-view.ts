// How each place of a form was looked at last, so that its link leads back there.
import { useLayoutEffect } from "react";
import { useLocation } from "react-router";
import { onOwnerChange } from "../../ui/owner";
import { EVERYTHING } from "../records/asking";

/** What belongs to a list and how it is looked at; what was open in it does not. */
const VIEW: readonly string[] = ["show", "group", "suite", ...Object.keys(EVERYTHING)];

const views = new Map<string, string>();
onOwnerChange(() => views.clear());

/** The address of a place, as it was looked at last. */
export function lastView(path: string) {
  return path + (views.get(path) ?? "");
}

/** Keep how a place is looked at, without what is open in it. */
export function keepView(pathname: string, search: string) {
  const asked = [...new URLSearchParams(search)].filter(([name]) => VIEW.includes(name));
  const kept = new URLSearchParams(asked).toString();
  views.set(pathname, kept && `?${kept}`);
}

export function useLastView() {
  const { pathname, search } = useLocation();
  useLayoutEffect(() => keepView(pathname, search), [pathname, search]);
}
