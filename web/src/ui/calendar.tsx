// A month to choose a day from.
import { ChevronLeft, ChevronRight } from "lucide-react";
import { DayPicker } from "react-day-picker";
import { isoDay, shownDay } from "./written";

type Props = { chosen: Date | undefined; onChoose: (day: Date) => void };

const CELL = "size-9 rounded-xs text-center";

function Chevron({ orientation }: { orientation?: "up" | "down" | "left" | "right" }) {
  return orientation === "left" ? <ChevronLeft size={16} /> : <ChevronRight size={16} />;
}

/** A day as it is said to those who listen: in the one style of the screens. */
function spoken(day: Date, { selected, today }: { selected?: boolean; today?: boolean }) {
  const weekday = day.toLocaleDateString("en-GB", { weekday: "long" });
  const marks = [today && "today", selected && "chosen"].filter(Boolean).join(", ");
  return [weekday, shownDay(isoDay(day)), marks].filter(Boolean).join(", ");
}

export default function Calendar({ chosen, onChoose }: Props) {
  return (
    <DayPicker
      // What was typed may be read only after the calendar has been opened.
      key={chosen?.getTime()}
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
      labels={{ labelDayButton: spoken }}
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
        hidden: "invisible",
      }}
    />
  );
}
