// A day, typed as people write it or taken from a calendar; shown back as “11 June 2026”.
// What is typed is read by the server, after a pause and when the field is left.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useId, useRef, useState } from "react";
import { answer, client } from "../api/client";
import { keys } from "../api/keys";
import { WithCalendar } from "./calendar-button";
import { useSettled } from "./pointer";
import { shownDay } from "./written";

type Props = {
  label: string;
  /** A day by ISO 8601, blank, or what was typed and could not be read. */
  value: string;
  onChange: (value: string) => void;
  placeholder?: string;
  className?: string;
  /** What may stand there beside a day, and is left to whoever reads the whole: today, say. */
  words?: RegExp;
  /** Whether the label is shown, or said only. */
  labelShown?: boolean;
};

const READ_AFTER = 300; // milliseconds without another letter

export function DayInput({
  label,
  value,
  onChange,
  placeholder = "day",
  className = "line-input w-44",
  labelShown = false,
  words,
}: Props) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [left, setLeft] = useState(true);
  const latest = useRef({ onChange, value });
  latest.current = { onChange, value };
  const asked = useSettled(typed ?? "", left ? 0 : READ_AFTER);
  const reading = useQuery({
    queryKey: keys.day(asked),
    queryFn: () => answer(client.GET("/api/v1/days", { params: { query: { written: asked } } })),
    enabled: asked.trim() !== "" && asked === typed && !words?.test(asked),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const day = typed !== null && asked === typed ? reading?.day : undefined;
  useEffect(() => {
    if (day && day !== latest.current.value) latest.current.onChange(day);
  }, [day]);
  useEffect(() => {
    // What was read is shown as it is written, once the field has been left.
    if (left && day) setTyped(null);
  }, [left, day]);
  const fault = left && typed?.trim() && asked === typed ? (reading?.fault ?? "") : "";
  return (
    <span className="inline-flex flex-wrap items-baseline gap-x-1.5">
      <label htmlFor={id} className={labelShown ? "" : "sr-only"}>
        {label}
      </label>
      <WithCalendar
        label={label}
        value={value}
        onChoose={(chosen) => {
          setTyped(null);
          onChange(chosen);
        }}
      >
        <input
          id={id}
          className={className}
          autoComplete="off"
          data-day
          placeholder={placeholder}
          value={typed ?? shownDay(value)}
          aria-invalid={fault !== ""}
          aria-describedby={`${id}-fault`}
          onFocus={() => setLeft(false)}
          onBlur={() => setLeft(true)}
          onChange={(event) => {
            setTyped(event.target.value);
            // Kept as it stands until it is read: nothing else is ever stored in its place.
            onChange(event.target.value.trim());
          }}
        />
      </WithCalendar>
      <span id={`${id}-fault`} className="font-sans text-sm text-ochre empty:hidden">
        {fault}
      </span>
    </span>
  );
}
