// Choices as lines that can be pasted and written in one go.
import { words } from "../../words";

const t = words("fields");
type Props = { lines: string; rows: number; onChange: (lines: string) => void };

export function ChoiceLines({ lines, rows, onChange }: Props) {
  return (
    <label className="block">
      <span className="text-muted">{t("choices_one_a_line_write_code_label")}</span>
      <textarea
        className="line-input mt-1 block w-full"
        rows={rows}
        value={lines}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}
