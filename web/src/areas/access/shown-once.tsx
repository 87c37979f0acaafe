// A secret that is shown here once, and nowhere again.
import { Copy } from "lucide-react";
import { useEffect, useRef } from "react";
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";

type Props = { what: string; says: string; text: string; onClose: () => void };

export function ShownOnce({ what, says, text, onClose }: Props) {
  const notify = useNotify();
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => box.current?.select(), []);
  async function copy() {
    await navigator.clipboard.writeText(text);
    notify({ text: `The ${what} is copied.` });
  }
  return (
    <section
      aria-label={`The new ${what}`}
      className="my-3 border-l-4 border-thistle bg-leaf px-5 py-4"
    >
      <label>
        {says} It is shown this once: hand it on now, as nobody can look it up later.
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
          <Copy size={15} aria-hidden="true" /> Copy
        </Button>
        <Button look="solid" onClick={onClose}>
          Close
        </Button>
      </div>
    </section>
  );
}
