// Light or dark: as the system says, until the person chooses.

export type Theme = "system" | "light" | "dark";
const KEY = "theme";
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
}

export function chooseTheme(theme: Theme) {
  if (theme === "system") localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, theme);
  applyTheme();
}

/** The other one than what is shown. */
export function otherTheme(): Theme {
  return shown() === "dark" ? "light" : "dark";
}
