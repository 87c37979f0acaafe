// Days and moments as people type them, with a calendar beside them.
import { type ReactNode, useState } from "react";
import { WithCalendar } from "../../ui/calendar-button";
import { focusSoon } from "../../ui/focus";
import { dayFrom, isoDay } from "../../ui/written";
import type { Judgement } from "./control";
import { type ControlProps, typedValue } from "./control";
import { Typed } from "./typed-control";

type Typing = { shown: string; type: (text: string | null) => void; box: ReactNode };

/** A day is typed as people write it, and stands as “11 June 2026” once the field is left. */
function useTyping(props: ControlProps): Typing {
  const { value, words, judged, onChange } = props;
  const [typed, setTyped] = useState<{ text: string; since: Judgement | undefined } | null>(null);
  const [inside, setInside] = useState(false);
  const stands = typed !== null && (inside || judged === typed.since);
  const shown = stands ? typed.text : (words ?? typedValue(value));
  const type = (text: string | null) => setTyped(text === null ? null : { text, since: judged });
  const box = (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only notes whether the field is being typed in
    <span onFocus={() => setInside(true)} onBlur={() => setInside(false)}>
      <Typed
        {...props}
        value={shown}
        onChange={(next) => {
          type(typedValue(next));
          onChange(next);
        }}
      />
    </span>
  );
  return { shown, type, box };
}

export function DayControl(props: ControlProps) {
  const { type, box } = useTyping(props);
  if (props.readOnly) return box;
  return (
    <WithCalendar
      label={props.field.label}
      value={typedValue(props.value)}
      onChoose={(day) => {
        type(null);
        props.onChange(day);
        props.onTouch();
      }}
    >
      {box}
    </WithCalendar>
  );
}

export function MomentControl(props: ControlProps) {
  const { shown, type, box } = useTyping(props);
  if (props.readOnly) return box;
  return (
    <WithCalendar
      label={props.field.label}
      value={dayOf(shown)}
      onChoose={(day) => {
        const [clock = NO_CLOCK] = CLOCK.exec(shown) ?? [];
        const text = `${day} ${clock}`;
        type(text);
        props.onChange(text);
        // The time is what is to be said next.
        const input = document.getElementById(props.id) as HTMLInputElement;
        focusSoon(() => {
          input.setSelectionRange(text.length - clock.length, text.length);
          return input;
        });
      }}
    >
      {box}
    </WithCalendar>
  );
}

/** A value that stands in words once the field is left, as a duration does. */
export function WordsControl(props: ControlProps) {
  return useTyping(props).box;
}

const CLOCK = /\d{1,2}:\d{2}(:\d{2})?$/;
const NO_CLOCK = "00:00";

/** The day within a day and time as it stands in the field, for the calendar to open at. */
function dayOf(shown: string) {
  const day = shown.replace(CLOCK, "").replace(/[,T\s]+$/, "");
  if (dayFrom(day)) return day;
  const read = new Date(day);
  return day === "" || Number.isNaN(read.getTime()) ? "" : isoDay(read);
}
