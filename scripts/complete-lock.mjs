// Run after `npm install` in web/: names every platform's optional package in the lock file, also
// those a partial registry did not offer, so that `npm ci` finds lock and manifest in step; and
// leaves out where packages were fetched from, which is the machine's own affair.
import { readFileSync, writeFileSync } from "node:fs";

const path = new URL("../web/package-lock.json", import.meta.url);
const lock = JSON.parse(readFileSync(path, "utf8"));
const SYSTEMS = ["android", "darwin", "linux", "win32", "freebsd", "openbsd", "aix", "sunos"];

function platformOf(name) {
  const words = name.split("/").at(-1).split("-");
  const os = SYSTEMS.find((system) => words.includes(system));
  const cpu = ["arm64", "x64", "arm", "ia32", "ppc64", "s390x", "riscv64", "wasm32"].find((one) =>
    words.some((word) => word === one),
  );
  return { ...(os && { os: [os] }), cpu: [cpu ?? "none"] };
}

for (const [place, entry] of Object.entries(lock.packages)) {
  delete entry.resolved;
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    const wanted = `node_modules/${name}`;
    if (lock.packages[wanted] || lock.packages[`${place}/${wanted}`]) continue;
    lock.packages[wanted] = {
      version: version.replace(/^[\^~]/, ""),
      ...platformOf(name),
      ...(entry.dev && { dev: true }),
      optional: true,
    };
  }
}
const sorted = Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1));
lock.packages = Object.fromEntries(sorted);
writeFileSync(path, `${JSON.stringify(lock, null, 2)}\n`);
