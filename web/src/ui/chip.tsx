// One of several ways to filter a list.
import type { ReactNode } from "react";

type Props = { chosen: boolean; onChoose: () => void; children: ReactNode };

export function Chip({ chosen, onChoose, children }: Props) {
  return (
    <button
      type="button"
      aria-pressed={chosen}
      onClick={onChoose}
      className={`min-h-6 rounded-xs px-2 ${chosen ? "bg-tint font-semibold" : "text-muted hover:bg-tint"}`}
    >
      {children}
    </button>
  );
}
