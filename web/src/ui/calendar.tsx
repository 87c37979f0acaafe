// A month to choose a day from.
import { ChevronLeft, ChevronRight } from "lucide-react";
import { DayPicker } from "react-day-picker";

type Props = { chosen: Date | undefined; onChoose: (day: Date) => void };

const CELL = "size-9 rounded-xs text-center";

function Chevron({ orientation }: { orientation?: "up" | "down" | "left" | "right" }) {
  return orientation === "left" ? <ChevronLeft size={16} /> : <ChevronRight size={16} />;
}

export default function Calendar({ chosen, onChoose }: Props) {
  return (
    <DayPicker
      autoFocus
      mode="single"
      required={false}
      weekStartsOn={1}
      captionLayout="dropdown"
      startMonth={new Date(1700, 0)}
      endMonth={new Date(new Date().getFullYear() + 50, 11)}
      selected={chosen}
      defaultMonth={chosen}
      onSelect={(day, clicked) => onChoose(day ?? clicked)}
      components={{ Chevron }}
      classNames={{
        root: "relative",
        nav: "absolute right-0 top-0 flex gap-1",
        button_previous: "inline-flex size-8 items-center justify-center rounded-xs hover:bg-tint",
        button_next: "inline-flex size-8 items-center justify-center rounded-xs hover:bg-tint",
        month_caption: "flex min-h-8 items-center pr-20",
        dropdowns: "flex gap-1",
        dropdown_root: "relative",
        dropdown: "line-input py-0",
        caption_label: "sr-only",
        month_grid: "mt-2",
        weekday: "size-9 text-sm font-normal text-muted",
        day: CELL,
        day_button: `${CELL} hover:bg-tint`,
        today: "font-semibold underline",
        selected: "bg-thistle text-on-thistle",
        outside: "text-muted",
      }}
    />
  );
}
