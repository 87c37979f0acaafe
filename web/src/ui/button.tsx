import type { ComponentProps } from "react";

const LOOKS = {
  solid: "bg-thistle text-on-thistle border-thistle hover:opacity-90",
  line: "bg-leaf text-ink border-edge hover:bg-tint",
  quiet: "border-transparent text-thistle hover:bg-tint",
};

type Props = ComponentProps<"button"> & { look?: keyof typeof LOOKS };

export function Button({ look = "line", className = "", type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={`inline-flex min-h-8 items-center gap-1.5 rounded-xs border px-3 py-1 text-[0.95rem] disabled:opacity-55 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
