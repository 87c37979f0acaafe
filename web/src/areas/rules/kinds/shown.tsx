// How a field is shown while it is not asked.
import { ChoicePart } from "../../../ui/choice-part";
import { words } from "../../../words";

const t = words("rules");

type Showing = "hidden" | "disabled";
const SHOWN = [
  { value: "hidden", label: "hidden" },
  { value: "disabled", label: t("shown_and_cannot_be_entered") },
];

type Props = { value: Showing; words: string; onChoose: (value: Showing) => void };

export function Shown({ value, words, onChoose }: Props) {
  return (
    <>
      <span className="-ml-1">, {words}</span>
      <ChoicePart
        label={t("how_it_is_shown_while_it_is")}
        value={value}
        groups={[{ options: SHOWN }]}
        onChoose={(next) => onChoose(next as Showing)}
      />
    </>
  );
}
