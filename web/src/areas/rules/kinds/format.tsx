// A named format, or a pattern of one's own with its meaning in plain words.

import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../../api/client";
import { keys } from "../../../api/keys";
import { ChoicePart } from "../../../ui/choice-part";
import { words } from "../../../words";
import type { RuleOf } from "../../form/rule";
import { asItIs, type KindOf, type KindProps, said } from "./kind";

const t = words("rules");

type FormatRule = RuleOf<"format">;

const PATTERN = "pattern";

function Parts({ draft, rule, onChange }: KindProps<"format">) {
  const put = (part: Partial<FormatRule>) => onChange({ ...draft, rule: { ...rule, ...part } });
  const formats = useQuery({
    queryKey: keys.formats,
    queryFn: () => answer(client.GET("/api/v1/formats")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const known = formats.data ?? [];
  const chosen = known.find((one) => one.key === rule.format);
  const own = rule.pattern !== null && rule.pattern !== undefined;
  function choose(key: string) {
    put({
      format: key === PATTERN ? null : key,
      pattern: key === PATTERN ? "" : null,
      country: null,
      described: "",
    });
  }
  return (
    <>
      <ChoicePart
        label={t("format")}
        value={own ? PATTERN : (rule.format ?? "")}
        placeholder={t("which_format")}
        groups={[
          { options: [{ value: PATTERN, label: t("a_pattern_of_one_s_own") }] },
          {
            label: t("named_formats"),
            options: known.map((one) => ({ value: one.key, label: one.label })),
          },
        ]}
        onChoose={choose}
      />
      {chosen?.needs_country && (
        <>
          <span>{t("of")}</span>
          <ChoicePart
            label={t("country_of_the_format")}
            value={rule.country ?? ""}
            placeholder={t("which_country")}
            groups={[
              { options: chosen.countries.map(({ code, name }) => ({ value: code, label: name })) },
            ]}
            onChoose={(country) => put({ country })}
          />
        </>
      )}
      {own && (
        <>
          <input
            aria-label={t("pattern")}
            placeholder="[0-9]{10}"
            spellCheck={false}
            className="line-input w-56 font-mono text-base"
            value={rule.pattern ?? ""}
            onChange={(event) => put({ pattern: event.target.value })}
          />
          <span>{t("that_is")}</span>
          <input
            aria-label={t("the_pattern_in_plain_words")}
            placeholder={t("exactly_ten_digits")}
            className="line-input w-56 font-sans text-base"
            value={rule.described}
            onChange={(event) => put({ described: event.target.value })}
          />
        </>
      )}
    </>
  );
}

export const format: KindOf<"format"> = {
  kind: "format",
  heading: "must",
  together: "Formats",
  ...said("format", t("must_be_written_as")),
  shows: null,
  order: "targets_verb",
  checks: true,
  needsCondition: false,
  begins: () => ({
    own: { format: null, country: null, pattern: null, described: "" },
    clauses: {},
  }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: { words: t("it_is_written_as"), fits: ["text"], next: true },
};
