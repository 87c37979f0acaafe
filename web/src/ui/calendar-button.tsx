// A calendar beside a field of days, fetched when it is first opened.
import { CalendarDays } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, lazy, type ReactNode, Suspense, useRef, useState } from "react";
import { words } from "../words";
import { dayFrom, isoDay } from "./written";

const t = words("ui");

const Calendar = lazy(() => import("./calendar"));

type Props = {
  label: string;
  value: string;
  onChoose: (iso: string) => void;
  /** The field in which the day is typed. */
  children: ReactNode;
};

/** A field of days with its calendar: opened by a click, or from the field by Alt + arrow down. */
export function WithCalendar({ label, value, onChoose, children }: Props) {
  const [open, setOpen] = useState(false);
  const field = useRef<HTMLSpanElement>(null);
  const elsewhere = useRef(false);
  function onKeyDown(event: KeyboardEvent) {
    if (event.key !== "ArrowDown" || !event.altKey) return;
    event.preventDefault();
    setOpen(true);
  }
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the key belongs to the field inside */}
      <span ref={field} className="inline-flex items-center" onKeyDown={onKeyDown}>
        {children}
        <Popover.Trigger
          tabIndex={-1}
          aria-label={t("calendar_for_label", { label })}
          title={t("calendar_alt_arrow_down")}
          className="ml-0.5 inline-flex size-7 items-center justify-center rounded-xs text-muted hover:bg-tint"
        >
          <CalendarDays size={16} aria-hidden="true" />
        </Popover.Trigger>
      </span>
      <Popover.Portal>
        <Popover.Content
          aria-label={t("calendar_for_label", { label })}
          sideOffset={4}
          onOpenAutoFocus={() => {
            elsewhere.current = false;
          }}
          onInteractOutside={() => {
            elsewhere.current = true;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            // Back to the field, unless somebody has pressed something else.
            if (!elsewhere.current) field.current?.querySelector("input")?.focus();
          }}
          className="z-50 rounded-xs border border-edge bg-leaf p-3 font-sans text-base shadow-lg"
        >
          <Suspense fallback={<p className="p-4 text-muted">{t("loading_the_calendar")}</p>}>
            <Calendar
              chosen={dayFrom(value)}
              onChoose={(day) => {
                setOpen(false);
                onChoose(isoDay(day));
              }}
            />
          </Suspense>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
