import type { ComponentProps } from "react";

const LOOKS = {
  solid: "bg-thistle text-on-thistle border-thistle hover:opacity-90",
  line: "bg-leaf text-ink border-edge hover:bg-tint",
  quiet: "border-transparent text-thistle hover:bg-tint",
};

type Props = ComponentProps<"button"> & {
  look?: keyof typeof LOOKS;
  /** What it does is under way, or cannot be done now: it keeps the focus, and does nothing. */
  busy?: boolean;
};

export function Button({
  look = "line",
  className = "",
  type = "button",
  busy = false,
  onClick,
  ...rest
}: Props) {
  return (
    <button
      type={type}
      data-look={look}
      aria-disabled={busy || undefined}
      className={`inline-flex min-h-8 items-center gap-1.5 rounded-xs border px-3 py-1 text-[0.95rem] disabled:opacity-55 aria-disabled:cursor-default aria-disabled:opacity-55 ${LOOKS[look]} ${className}`}
      onClick={(event) => {
        if (busy) event.preventDefault();
        else onClick?.(event);
      }}
      {...rest}
    />
  );
}
