// The pages of a form in the order of the work, in four stages, as far as somebody has a use for them.
import type { Right } from "../../api/session";
import { onOwnerChange } from "../../ui/owner";
import { words } from "../../words";

const t = words("frame");

export type Place = { at: string; name: string };
export type Stage = { name: string; places: Place[] };

const STAGES: (Stage & { for: (rights: readonly Right[]) => boolean })[] = [
  {
    name: "Write",
    places: [
      { at: "fields", name: "Fields" },
      { at: "rules", name: "Rules" },
      { at: "plan", name: "Plan" },
      { at: "setup", name: "Set-up" },
    ],
    for: looksAtRules,
  },
  {
    name: "Prove",
    places: [
      { at: "bench", name: "Bench" },
      { at: "cases", name: "Cases" },
      { at: "proof", name: "Proof" },
      { at: "findings", name: "Findings" },
    ],
    for: (rights) => rights.includes("use_bench"),
  },
  {
    name: "Release",
    places: [
      { at: "impact", name: "Impact" },
      { at: "releases", name: "Releases" },
    ],
    for: looksAtRules,
  },
  {
    name: "Live",
    places: [
      { at: "records", name: "Records" },
      { at: "imports", name: "Imports" },
      { at: "access", name: "Access" },
      { at: "watch", name: "Watch" },
      { at: "messages", name: "Messages" },
      { at: "history", name: "History" },
    ],
    for: () => true,
  },
];

/** The rights without which a page is of no use. */
const NEEDED: Record<string, Right> = {
  watch: "watch",
  imports: "write_records",
  access: "release",
  messages: "release",
};

/** Stewards write the rules, and who only reads looks at everything. */
export function looksAtRules(rights: readonly Right[]) {
  return rights.includes("edit_draft") || !rights.includes("write_records");
}

/** Whether the catalogue of forms is of use to somebody; others find theirs at the desk. */
export function looksAtForms(rights: readonly Right[]) {
  return looksAtRules(rights) || rights.includes("use_bench");
}

const AT_THE_DESK: Place[] = [
  { at: "records", name: "Records" },
  { at: "imports", name: "Imports" },
];

/** The stages for somebody with these rights; who only fills in needs no stages. */
export function stagesFor(rights: readonly Right[]): Stage[] {
  if (!looksAtForms(rights)) return [{ name: "", places: AT_THE_DESK }];
  const stages = STAGES.filter((stage) => stage.for(rights)).map((stage) => ({
    ...stage,
    places: stage.places.filter(({ at }) => {
      const needed = NEEDED[at];
      return !needed || rights.includes(needed);
    }),
  }));
  if (!rights.includes("approve")) return stages;
  const approval = { at: "approval", name: t("to_approve") };
  return stages.map((stage) =>
    stage.name === "Live" ? { ...stage, places: [approval, ...stage.places] } : stage,
  );
}

export function stageAt(stages: readonly Stage[], pathname: string) {
  const at = pathname.split("/")[3];
  return stages.find(({ places }) => places.some((place) => place.at === at));
}

/** Where somebody with these rights begins, and where in a form. */
export const homeFor = (rights: readonly Right[]) => (looksAtRules(rights) ? "/forms" : "/desk");
export const placeFor = (rights: readonly Right[]) => (looksAtRules(rights) ? "rules" : "records");

const lastPlaces = new Map<string, string>();
onOwnerChange(() => lastPlaces.clear());

/** Note which page of its stage was looked at last. */
export function keepPlace(formKey: string, stage: Stage, pathname: string) {
  lastPlaces.set(`${formKey} ${stage.name}`, pathname.split("/")[3] ?? "");
}

/** The page to which the name of a stage leads. */
export function lastPlace(formKey: string, stage: Stage) {
  return lastPlaces.get(`${formKey} ${stage.name}`) ?? stage.places[0]?.at ?? "";
}
