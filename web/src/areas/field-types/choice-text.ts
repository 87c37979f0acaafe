// Choices as lines of text that can be pasted.
import type { FieldOf } from "./field";

export type Option = FieldOf<"choice">["choices"][number];

/** Choices as lines that can be pasted: a label a line, or `code = label`; a dash retires one. */
export function linesOf(choices: readonly Option[]) {
  return choices
    .map(({ code, label, retired }) => {
      const line = code === codeOf(label) ? label : `${code} = ${label}`;
      return retired ? `- ${line}` : line;
    })
    .join("\n");
}

export function choicesFrom(lines: string): Option[] {
  return lines
    .split("\n")
    .map((line) => line.trim())
    .filter((line) => line !== "" && line !== "-")
    .map((line) => {
      const retired = /^-\s/.test(line);
      const bare = retired ? line.replace(/^-\s+/, "") : line;
      const [, code, label] = /^(\S+)\s+=\s+(.+)$/.exec(bare) ?? [];
      return { code: code ?? codeOf(bare), label: label ?? bare, retired };
    });
}

function codeOf(label: string) {
  return label.toLowerCase().replace(/[\s-]+/g, "_");
}
