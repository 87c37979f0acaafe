// Short notices at the foot of the screen, with a way to undo what they tell.
import { X } from "lucide-react";
import { Toast } from "radix-ui";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useRef,
  useState,
} from "react";
import { queries } from "../api/queries";
import { words } from "../words";
import { Button } from "./button";
import { focusSoon } from "./focus";
import { onOwnerChange } from "./owner";

const t = words("ui");

const SHOWN_FOR = 20_000; // milliseconds
type Notice = { text: string; undo?: () => void };
/** The same words twice are two notices. */
type Shown = Notice & { id: number };
const Notify = createContext<(notice: Notice) => void>(() => {});

export const useNotify = () => useContext(Notify);

export function Notices({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Shown | null>(null);
  const viewport = useRef<HTMLOListElement>(null);
  const notify = useCallback(
    (next: Notice) => setNotice((before) => ({ ...next, id: (before?.id ?? 0) + 1 })),
    [],
  );
  // What was done since cannot be undone by what is told of an earlier act.
  useEffect(
    () =>
      queries.getMutationCache().subscribe(({ type, mutation }) => {
        // Acts on a draft go one after the other, so each has a scope.
        const isAct = type === "added" && mutation?.options.scope !== undefined;
        if (isAct) setNotice((shown) => (shown?.undo ? null : shown));
      }),
    [],
  );
  // A notice is for the person to whom it was told.
  useEffect(() => onOwnerChange(() => setNotice(null)), []);
  function putAway() {
    setNotice(null);
    focusSoon(() =>
      viewport.current === document.activeElement ? document.getElementById("main") : null,
    );
  }
  return (
    <Notify.Provider value={notify}>
      <Toast.Provider duration={SHOWN_FOR} label={t("notice")} swipeDirection="down">
        {children}
        {notice && (
          <Toast.Root
            key={notice.id}
            type="background"
            onOpenChange={(open) => !open && putAway()}
            className="flex items-center gap-3 rounded-xs border border-edge bg-leaf py-1 pr-1 pl-4 shadow-lg"
          >
            <Toast.Description>{notice.text}</Toast.Description>
            {notice.undo && (
              <Toast.Action asChild altText={t("undo_by_key")}>
                <Button look="quiet" onClick={notice.undo}>
                  {t("undo")}
                </Button>
              </Toast.Action>
            )}
            <Toast.Close asChild>
              <Button look="quiet" aria-label={t("dismiss_notice")}>
                <X size={16} aria-hidden="true" />
              </Button>
            </Toast.Close>
          </Toast.Root>
        )}
        <Toast.Viewport
          ref={viewport}
          label={t("notices")}
          hotkey={[]}
          className="fixed bottom-4 left-1/2 z-40 -translate-x-1/2 outline-none"
        />
      </Toast.Provider>
    </Notify.Provider>
  );
}
