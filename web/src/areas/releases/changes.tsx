// What is different between two versions of a form, in words, by what it is a part of.

import { words } from "../../words";
import type { PartChange } from "./queries";

const t = words("releases");

const PARTS: Record<PartChange["part"], string> = {
  form: t("the_form_itself"),
  choice_lists: t("shared_choice_lists"),
  sections: "Sections",
  layouts: "Layouts",
  compounds: t("fields_that_stand_together"),
  fields: "Fields",
  conditions: t("named_conditions"),
  starters: "Starters",
  rules: "Rules",
};
const ACT_LOOKS: Record<PartChange["act"], string> = {
  added: "text-moss",
  removed: "text-madder",
  changed: "text-slate",
  "in another order": "text-muted",
};

export function Changes({ changes }: { changes: readonly PartChange[] }) {
  if (changes.length === 0) return <p className="py-3 text-muted">{t("the_two_say_the_same")}</p>;
  const parts = Object.entries(PARTS) as [PartChange["part"], string][];
  return (
    <>
      {parts.map(([part, words]) => {
        const own = changes.filter((one) => one.part === part);
        if (own.length === 0) return null;
        return (
          <section key={part} aria-label={words} className="mt-3">
            <h4 className="border-b border-hairline pb-1 font-semibold">{words}</h4>
            <ul>
              {own.map((change) => (
                <Line key={`${change.act} ${change.key}`} change={change} />
              ))}
            </ul>
          </section>
        );
      })}
    </>
  );
}

function Line({ change }: { change: PartChange }) {
  const { act, name, says, details } = change;
  return (
    <li className="grid grid-cols-[6.5rem_minmax(0,1fr)] gap-x-3 border-b border-hairline py-1.5">
      <span className={ACT_LOOKS[act]}>{act}</span>
      <div>
        <span className="font-semibold">{act === "in another order" ? "" : name}</span>
        {act !== "changed" && says && <p>{says}</p>}
        {act === "in another order" && <p>{t("their_order_has_changed")}</p>}
        {act === "changed" && (
          <dl>
            {details.map(({ what, before, after }) => (
              <div key={`${what} ${before} ${after}`} className="mt-0.5">
                <dt className="inline text-muted">{what}: </dt>
                <dd className="inline">
                  {before && <del className="text-muted decoration-madder/60">{before}</del>}
                  {before && after && " → "}
                  {after && <ins className="no-underline">{after}</ins>}
                </dd>
              </div>
            ))}
          </dl>
        )}
      </div>
    </li>
  );
}
