// The areas import one way: each only those that stand before it here.
import { describe, expect, it } from "vitest";

const ORDER = [
  "form",
  "field-types",
  "form-sheet",
  "link",
  "sign-in",
  "history",
  "watch",
  "cases",
  "findings",
  "releases",
  "bench",
  "plan",
  "rules",
  "fields",
  "setup",
  "catalogue",
  "records",
  "imports",
  "messages",
  "access",
  "desk",
  "people",
  "account",
  "frame",
];
const SOURCES: Record<string, string> = import.meta.glob("./**/*.{ts,tsx}", {
  query: "?raw",
  import: "default",
  eager: true,
});

function areasImported(path: string, source: string) {
  const here = path.split("/").slice(1, -1);
  return [...source.matchAll(/(?:from|import\()\s*"(\.[^"]+)"/g)].flatMap(([, spec = ""]) => {
    const steps = spec.split("/");
    const up = steps.filter((step) => step === "..").length;
    const folder = [...here.slice(0, here.length - up), ...steps.filter((step) => step[0] !== ".")];
    return up > here.length ? [] : folder.slice(0, 1);
  });
}

describe("the areas", () => {
  it("are all in the order", () => {
    const areas = new Set(Object.keys(SOURCES).map((path) => path.split("/")[1] ?? ""));
    areas.delete("areas.test.ts");
    expect([...areas].sort()).toEqual([...ORDER].sort());
  });

  it.each(ORDER)("%s imports only what stands before it", (area) => {
    const before = ORDER.slice(0, ORDER.indexOf(area) + 1);
    const paths = Object.keys(SOURCES).filter((path) => path.startsWith(`./${area}/`));
    expect(paths.length).toBeGreaterThan(0);
    for (const path of paths) {
      const imported = areasImported(path, SOURCES[path] ?? "");
      expect(
        imported.filter((one) => !before.includes(one)),
        path,
      ).toEqual([]);
    }
  });
});
