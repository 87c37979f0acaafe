// Light or dark: as the system says, until the person chooses.
const KEY = "theme";

function chosen(): "light" | "dark" {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

export function applyTheme() {
  document.documentElement.dataset.theme = chosen();
}

export function switchTheme() {
  localStorage.setItem(KEY, chosen() === "dark" ? "light" : "dark");
  applyTheme();
}
