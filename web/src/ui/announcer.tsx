// One voice for those who listen: what is new is said once there is a pause, in one sentence.
import { useEffect, useState } from "react";
import { words } from "../words";

const t = words("ui");

const PAUSE = 900; // milliseconds
type Listener = (text: string) => void;

const listeners = new Set<Listener>();
const waiting = new Map<string, string>();
const spoken = new Map<string, string>();
let timer: ReturnType<typeof setTimeout> | undefined;

function speak() {
  const fresh = [...waiting].filter(([source, text]) => text && spoken.get(source) !== text);
  for (const [source, text] of waiting) spoken.set(source, text);
  waiting.clear();
  const sentence = fresh.map(([, text]) => text.replace(/\.$/, "")).join("; ");
  if (sentence) for (const listener of listeners) listener(`${sentence}.`);
}

function announce(source: string, text: string) {
  waiting.set(source, text);
  clearTimeout(timer);
  timer = setTimeout(speak, PAUSE);
}

/** Say a text aloud when it changes, with whatever else changes until there is a pause. */
export function useAnnounced(source: string, text: string) {
  useEffect(() => announce(source, text), [source, text]);
  useEffect(() => () => void spoken.delete(source), [source]);
}

export function Announcer() {
  const [text, setText] = useState("");
  useEffect(() => {
    listeners.add(setText);
    return () => {
      listeners.delete(setText);
    };
  }, []);
  return (
    <p role="status" aria-label={t("what_is_new")} className="sr-only">
      {text}
    </p>
  );
}
