// A secret that is shown here once, and nowhere again.
import { Copy } from "lucide-react";
import { useEffect, useRef } from "react";
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { words } from "../../words";

const t = words("access");

type Props = { what: string; says: string; text: string; onClose: () => void };

export function ShownOnce({ what, says, text, onClose }: Props) {
  const notify = useNotify();
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => box.current?.select(), []);
  async function copy() {
    await navigator.clipboard.writeText(text);
    notify({ text: t("the_what_is_copied", { what }) });
  }
  return (
    <section
      aria-label={t("the_new_what", { what })}
      className="my-3 border-l-4 border-thistle bg-leaf px-5 py-4"
    >
      <label>
        {t("says_it_is_shown_this_once_hand", { says })}
        <input
          ref={box}
          readOnly
          className="line-input mt-1 block w-full font-mono"
          value={text}
          onFocus={(event) => event.target.select()}
        />
      </label>
      <div className="mt-3 flex gap-2">
        <Button onClick={copy}>
          <Copy size={15} aria-hidden="true" /> {t("copy")}
        </Button>
        <Button look="solid" onClick={onClose}>
          {t("close")}
        </Button>
      </div>
    </section>
  );
}
