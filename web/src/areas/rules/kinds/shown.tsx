// How a field is shown while it is not asked.
import { ChoicePart } from "../../../ui/choice-part";

type Showing = "hidden" | "disabled";
const SHOWN = [
  { value: "hidden", label: "hidden" },
  { value: "disabled", label: "shown, and cannot be entered" },
];

type Props = { value: Showing; words: string; onChoose: (value: Showing) => void };

export function Shown({ value, words, onChoose }: Props) {
  return (
    <>
      <span className="-ml-1">, {words}</span>
      <ChoicePart
        label="How it is shown while it is not asked"
        value={value}
        groups={[{ options: SHOWN }]}
        onChoose={(next) => onChoose(next as Showing)}
      />
    </>
  );
}
