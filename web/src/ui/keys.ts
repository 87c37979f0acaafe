// Which keys belong to what is being typed, and which to the screen.
import { type KeyboardEvent as ReactKeyboardEvent, useEffect, useRef } from "react";
import { ownerName } from "./owner";

const LISTS = "[role=listbox], [role=menu]";
const TAKING_LISTS = "[role=listbox], [role=menu]:not([data-ticks])";
const singleKeysName = () => `single-keys/${ownerName()}`;

/** Whether keys pressed there are part of a text or of an open list. */
export function isTyping(target: EventTarget | null) {
  return (
    target instanceof Element &&
    target.closest(
      `input:not([type=checkbox]), textarea, select, .cm-editor, ${LISTS}, [role=dialog]`,
    ) !== null
  );
}

/** Whether Ctrl + Enter was pressed, and not in an open list where Enter takes the one entry. */
export function isStoreKey(event: ReactKeyboardEvent) {
  const inList = event.target instanceof Element && event.target.closest(TAKING_LISTS) !== null;
  return event.key === "Enter" && (event.ctrlKey || event.metaKey) && !inList;
}

/** For what opens on Enter: Ctrl + Enter is left to the screen. */
export function leaveStoreKey(event: ReactKeyboardEvent) {
  if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) event.preventDefault();
}

/** Whether keys without Ctrl or Alt do something on the screen (WCAG 2.1.4): as the person chose. */
export function singleKeysOn() {
  return localStorage.getItem(singleKeysName()) !== "off";
}

export function switchSingleKeys(on: boolean) {
  localStorage.setItem(singleKeysName(), on ? "on" : "off");
}

/** A key that does something on the screen, unless it is part of what is being typed. */
export function useKey(key: string, act: () => void, active = true) {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey) return;
      if (!active || !singleKeysOn() || isTyping(event.target)) return;
      event.preventDefault();
      latest.current();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [key, active]);
}
