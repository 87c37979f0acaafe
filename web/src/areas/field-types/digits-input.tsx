import { words } from "../../words";

const t = words("fields");

/** How many digits a number has after the point. */
export function DigitsInput(props: { value: number; onChange: (digits: number) => void }) {
  return (
    <label className="block">
      <span className="text-muted">{t("digits_after_the_point")}</span>
      <input
        type="number"
        min={0}
        max={20}
        className="line-input mt-1 block w-24"
        value={props.value}
        onChange={(event) => props.onChange(Number(event.target.value))}
      />
    </label>
  );
}
