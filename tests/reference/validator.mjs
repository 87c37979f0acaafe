// A second opinion on formats: for a JSON list of [function, text, ...arguments] on the input, the
// JSON list of what the npm package `validator` says of each.
import { createRequire } from "node:module";
import { text } from "node:stream/consumers";

const require = createRequire(new URL("../../web/package.json", import.meta.url));
const validator = require("validator");

const asked = JSON.parse(await text(process.stdin));
console.log(JSON.stringify(asked.map(([name, ...given]) => validator[name](...given))));
