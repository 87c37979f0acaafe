// Light or dark: as the system says, until the person chooses.
import { useSyncExternalStore } from "react";

export type Theme = "system" | "light" | "dark";
const KEY = "theme";
const listeners = new Set<() => void>();
const dark = matchMedia("(prefers-color-scheme: dark)");
dark.addEventListener("change", () => applyTheme());

function chosen(): Theme {
  const kept = localStorage.getItem(KEY);
  return kept === "light" || kept === "dark" ? kept : "system";
}

function shown() {
  const theme = chosen();
  if (theme !== "system") return theme;
  return dark.matches ? "dark" : "light";
}

export function applyTheme() {
  document.documentElement.dataset.theme = shown();
  for (const tell of listeners) tell();
}

export function chooseTheme(theme: Theme) {
  if (theme === "system") localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, theme);
  applyTheme();
}

export function switchTheme() {
  chooseTheme(shown() === "dark" ? "light" : "dark");
}

/** What is chosen. */
export function useTheme() {
  return useSyncExternalStore((tell) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  }, chosen);
}
