// A dialog: a leaf laid on the table, closed by Escape.
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

type Props = {
  title: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  wide?: boolean;
  children: ReactNode;
};

export function Sheet({ title, open, onOpenChange, wide = false, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-[10vh] left-1/2 z-50 max-h-[80vh] ${wide ? "w-[min(56rem,94vw)]" : "w-[min(36rem,92vw)]"} -translate-x-1/2 overflow-auto rounded-xs border border-edge bg-ground p-6 shadow-xl`}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <Dialog.Title className="text-2xl">{title}</Dialog.Title>
            <Dialog.Close aria-label="Close" className="p-1 text-muted hover:text-ink">
              <X size={20} aria-hidden="true" />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
