// A message as its receiver sees it.

import { words } from "../../words";
import type { Letter } from "./queries";

const t = words("messages");

/** What is in it came from a record: it runs no scripts, and reaches nothing of this page. */
export function LetterSheet({ letter }: { letter: Letter }) {
  return (
    <article aria-label={t("the_message")} className="border border-edge bg-leaf shadow-xs">
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 border-b border-hairline px-5 py-3 text-sm">
        {letter.headers.map(({ name, line }) => (
          <div key={name} className="contents">
            <dt className="text-muted">{name}</dt>
            <dd className={name === "Subject" ? "font-semibold" : ""}>{line}</dd>
          </div>
        ))}
      </dl>
      <iframe
        title={t("what_it_says")}
        sandbox=""
        srcDoc={PAGE.replace("{page}", () => letter.page)}
        className="h-72 w-full bg-white"
      />
    </article>
  );
}

const PAGE =
  '<!doctype html><meta charset="utf-8"><body style="margin:1rem 1.25rem;font:16px/1.5 sans-serif;color:#222;overflow-wrap:anywhere">{page}';
