// A second opinion: evaluates one FEEL expression a line (JSON text) and answers one JSON a line.
import { createRequire } from "node:module";
import { createInterface } from "node:readline";
import { pathToFileURL } from "node:url";

const require = createRequire(new URL("../../web/package.json", import.meta.url));
const { evaluate } = await import(pathToFileURL(require.resolve("feelin")));

function plain(value) {
  if (value === undefined || value === null) return null;
  if (Array.isArray(value)) return value.map(plain);
  if (typeof value === "number") return { number: String(value) };
  if (typeof value !== "object") return value;
  if (value.constructor === Object)
    return { context: Object.entries(value).map(([key, item]) => [key, plain(item)]) };
  return { other: String(value) };
}

for await (const line of createInterface({ input: process.stdin })) {
  let answer;
  try {
    answer = plain(evaluate(JSON.parse(line), {}).value);
  } catch (error) {
    answer = { error: String(error.message) };
  }
  process.stdout.write(`${JSON.stringify(answer)}\n`);
}
