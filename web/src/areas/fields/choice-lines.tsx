// Choices as lines that can be pasted and written in one go.
type Props = { lines: string; rows: number; onChange: (lines: string) => void };

export function ChoiceLines({ lines, rows, onChange }: Props) {
  return (
    <label className="block">
      <span className="text-muted">
        Choices, one a line. Write “code = label” to say the code; a dash before a line retires it.
      </span>
      <textarea
        className="line-input mt-1 block w-full"
        rows={rows}
        value={lines}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}
