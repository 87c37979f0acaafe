// Two fields against each other: regions to scale with their exact borders, and what happens in each.
import { useState } from "react";
import { ChoicePart } from "../../ui/choice-part";
import { words } from "../../words";
import { OUTCOME_WORDS } from "../form/outcomes";
import type { Entered } from "../form-sheet/judging";
import { MapPicture } from "./map-picture";
import { type BenchForm, type BenchRequest, useMap } from "./trying";
import type { MapView, Moment } from "./views";

const t = words("bench");

type Props = {
  form: BenchForm;
  revision: number;
  request: BenchRequest;
  across: string;
  up: string;
  onFields: (across: string, up: string) => void;
  onChoose: (values: Record<string, Entered>) => void;
};

export function FieldMap({ form, revision, request, across, up, onFields, onChoose }: Props) {
  const [moment, setMoment] = useState<Moment>("submit");
  const map = useMap({ key: form.key, revision }, request, across, up).data;
  const labels = new Map(form.fields.map((field) => [field.key, field.label]));
  const groups = (other: string) => [
    {
      options: form.mapped
        .filter((key) => key !== other)
        .map((key) => ({ value: key, label: labels.get(key) ?? key })),
    },
  ];
  return (
    <section aria-label={t("two_fields_against_each_other")} className="mt-3">
      <p className="flex flex-wrap items-baseline gap-1.5">
        <ChoicePart
          label={t("across")}
          value={across}
          groups={groups(up)}
          onChoose={(next) => onFields(next, up)}
        />
        {t("across_2")}
        <ChoicePart
          label={t("upward")}
          value={up}
          groups={groups(across)}
          onChoose={(next) => onFields(across, next)}
        />
        {t("upward_on")}
        <ChoicePart
          label={t("moment")}
          value={moment}
          groups={[
            {
              options: [
                { value: "save", label: t("saving_2") },
                { value: "submit", label: t("submitting_2") },
              ],
            },
          ]}
          onChoose={(next) => setMoment(next as Moment)}
        />
      </p>
      {map && map.across.field === across && map.up.field === up ? (
        <Drawn map={map} moment={moment} form={form} onChoose={onChoose} />
      ) : (
        <p className="py-2 text-muted">{t("drawing_the_map")}</p>
      )}
    </section>
  );
}

type DrawnProps = {
  map: MapView;
  moment: Moment;
  form: BenchForm;
  onChoose: (values: Record<string, Entered>) => void;
};

function Drawn({ map, moment, form, onChoose }: DrawnProps) {
  const names = new Map(form.rules.map((rule) => [rule.key, rule.name]));
  function words(region: MapView["regions"][number]) {
    const violated = region.violated.map((key) => names.get(key) ?? key);
    const because = violated.length > 0 ? ` (${violated.join("; ")})` : "";
    return t("outcome_words_such_as_words_because", {
      OUTCOME_WORDS: OUTCOME_WORDS[region[moment]],
      words: region.words,
      because,
    });
  }
  return (
    <figure
      className="pt-2 text-sm"
      aria-label={t("label_against_label2", { label: map.across.label, label2: map.up.label })}
    >
      <MapPicture
        map={map}
        moment={moment}
        words={words}
        onChoose={(x, y) => onChoose({ [map.across.field]: x, [map.up.field]: y })}
      />
      <details className="mt-1">
        <summary className="cursor-pointer text-muted">{t("in_words")}</summary>
        <ul className="pl-4">
          {map.regions.map((region) => (
            <li key={region.words}>{words(region)}</li>
          ))}
        </ul>
      </details>
      <figcaption className="text-muted">
        {[scaleWords(map), BENT[String(map.bent)], SAMPLED[String(!map.exact)]].join(" ")}
      </figcaption>
    </figure>
  );
}

const BENT: Record<string, string> = {
  true: t("a_border_is_bent_it_is_drawn"),
};
const SAMPLED: Record<string, string> = {
  true: t("looked_at_by_samples_in_part_so"),
};

/** Which sides are not to scale. */
function scaleWords({ across, up }: MapView) {
  const ranked = [across, up].filter((side) => side.by === "rank").map((side) => side.label);
  if (ranked.length === 0) return "";
  return t("not_to_scale", {
    both: String(ranked.length > 1),
    one: ranked[0] ?? "",
    other: ranked[1] ?? "",
  });
}
