// What is new, for those who listen: said once there is a pause, in one sentence.
import { announce } from "@react-aria/live-announcer";
import { useEffect } from "react";

const PAUSE = 900; // milliseconds

const waiting = new Map<string, string>();
const spoken = new Map<string, string>();
let timer: ReturnType<typeof setTimeout> | undefined;

function speak() {
  const fresh = [...waiting].filter(([source, text]) => text && spoken.get(source) !== text);
  for (const [source, text] of waiting) spoken.set(source, text);
  waiting.clear();
  const sentence = fresh.map(([, text]) => text.replace(/\.$/, "")).join("; ");
  if (sentence) announce(`${sentence}.`, "polite");
}

/** Say a text aloud when it changes, with whatever else changes until there is a pause. */
export function useAnnounced(source: string, text: string) {
  useEffect(() => {
    waiting.set(source, text);
    clearTimeout(timer);
    timer = setTimeout(speak, PAUSE);
  }, [source, text]);
  useEffect(() => () => void spoken.delete(source), [source]);
}
