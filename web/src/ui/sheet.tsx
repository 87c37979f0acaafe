// A dialog: a leaf laid on the table, closed by Escape.
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, useRef } from "react";
import { words } from "../words";
import { isStoreKey } from "./keys";

const t = words("ui");

type Props = {
  title: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  wide?: boolean;
  /** It asks for an answer: it cannot be closed, and hides what is below it. */
  firm?: boolean;
  children: ReactNode;
};

export function Sheet({ open, onOpenChange, ...rest }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !rest.firm && onOpenChange(next)}>
      <Dialog.Portal>
        <Dialog.Overlay
          className={`fixed inset-0 ${rest.firm ? "z-50 bg-ground" : "z-40 bg-ink/30"}`}
        />
        {open && <Leaf {...rest} />}
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Leaf({
  title,
  wide = false,
  firm = false,
  children,
}: Omit<Props, "open" | "onOpenChange">) {
  const body = useRef<HTMLDivElement>(null);
  return (
    <Dialog.Content
      aria-describedby={undefined}
      // Where the focus goes is the rule's to say.
      onOpenAutoFocus={(event) => event.preventDefault()}
      onCloseAutoFocus={(event) => event.preventDefault()}
      className={`fixed top-[10vh] left-1/2 z-50 max-h-[80vh] ${wide ? "w-[min(56rem,94vw)]" : "w-[min(36rem,92vw)]"} -translate-x-1/2 overflow-auto rounded-xs border border-edge bg-ground p-6 shadow-xl`}
    >
      <div className="mb-3 flex items-start justify-between gap-4">
        <Dialog.Title className="text-2xl">{title}</Dialog.Title>
        {!firm && (
          <Dialog.Close aria-label={t("close")} className="p-1 text-muted hover:text-ink">
            <X size={20} aria-hidden="true" />
          </Dialog.Close>
        )}
      </div>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the key works wherever the focus is inside */}
      <div
        ref={body}
        tabIndex={-1}
        data-focus="first"
        className="outline-none"
        onKeyDown={(event) => {
          if (!isStoreKey(event)) return;
          event.preventDefault();
          // What is behind the dialog is not stored by it.
          event.stopPropagation();
          // What the one solid button is there for.
          body.current?.querySelector<HTMLButtonElement>("button[data-look=solid]")?.click();
        }}
      >
        {children}
      </div>
    </Dialog.Content>
  );
}
