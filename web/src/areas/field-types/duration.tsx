// A length of time, in units no finer than one.
import { ChoicePart } from "../../ui/choice-part";
import { words } from "../../words";
import { WordsControl } from "./day-control";
import type { FieldOf } from "./field";
import type { SettingsProps, TypeOf } from "./type";

const t = words("fields");
type Unit = FieldOf<"duration">["finest"];
const UNITS: Record<Unit, string> = {
  year: t("years"),
  month: t("months"),
  day: t("days"),
  hour: t("hours"),
  minute: t("minutes"),
  second: t("seconds"),
};

function Settings({ field, onChange }: SettingsProps<"duration">) {
  const options = (units: Unit[]) => units.map((value) => ({ value, label: UNITS[value] }));
  return (
    <span>
      {t("no_finer_than")}{" "}
      <ChoicePart
        label={t("finest_unit")}
        value={field.finest}
        groups={[
          { label: t("by_the_clock"), options: options(["day", "hour", "minute", "second"]) },
          { label: t("by_the_calendar"), options: options(["year", "month"]) },
        ]}
        onChoose={(finest) => onChange({ finest: finest as Unit })}
      />
    </span>
  );
}

export const duration: TypeOf<"duration"> = {
  type: "duration",
  words: t("a_duration"),
  begins: () => ({ type: "duration", finest: "minute", decimal_mark: null }),
  holds: (field) => t("a_duration_to", { unit: UNITS[field.finest] }),
  Settings,
  Control: WordsControl,
  look: () => ({}),
  isBounded: true,
  isGroup: false,
  shown: (words) => words,
};
