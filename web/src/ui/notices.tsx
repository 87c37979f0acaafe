// Short notices at the foot of the screen, with a way to undo what they tell.
import { X } from "lucide-react";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useState } from "react";
import { queries } from "../api/queries";
import { words } from "../words";
import { Button } from "./button";
import { focusSoon } from "./focus";
import { onOwnerChange } from "./owner";

const t = words("ui");

const SHOWN_FOR = 20_000; // milliseconds
type Notice = { text: string; undo?: () => void };
const Notify = createContext<(notice: Notice) => void>(() => {});

export const useNotify = () => useContext(Notify);

export function Notices({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const notify = useCallback((next: Notice) => setNotice(next), []);
  useEffect(() => {
    const timer = notice && setTimeout(() => setNotice(null), SHOWN_FOR);
    return () => clearTimeout(timer ?? undefined);
  }, [notice]);
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
    focusSoon(() => document.getElementById("main"), true);
  }
  return (
    <Notify.Provider value={notify}>
      {children}
      <div
        role="status"
        className="pointer-events-none fixed inset-x-0 bottom-4 z-40 flex justify-center empty:hidden"
      >
        {notice && (
          <div className="pointer-events-auto flex items-center gap-3 rounded-xs border border-edge bg-leaf py-1 pr-1 pl-4 shadow-lg">
            <span>{notice.text}</span>
            {notice.undo && (
              <Button
                look="quiet"
                onClick={() => {
                  notice.undo?.();
                  putAway();
                }}
              >
                {t("undo")}
              </Button>
            )}
            <Button look="quiet" aria-label={t("dismiss_notice")} onClick={putAway}>
              <X size={16} aria-hidden="true" />
            </Button>
          </div>
        )}
      </div>
    </Notify.Provider>
  );
}
