// A page: its title in the window and for those who listen, its heading, and where the focus goes
// when one arrives at it.
import { type KeyboardEventHandler, type ReactNode, useEffect } from "react";

const PRODUCT = "Thistlequartz";

type Props = {
  title: string;
  /** What the page belongs to: the form, mostly. */
  of?: string;
  /** Its heading; without one it is said and not shown. */
  heading?: ReactNode;
  level?: 1 | 2;
  className?: string;
  onKeyDown?: KeyboardEventHandler;
  children: ReactNode;
};

export function Page({ title, of, heading, level = 2, className, onKeyDown, children }: Props) {
  const whole = [title, of, PRODUCT].filter(Boolean).join(" – ");
  useEffect(() => {
    document.title = whole;
  }, [whole]);
  const Heading = level === 1 ? "h1" : "h2";
  return (
    <main
      id="main"
      tabIndex={-1}
      data-focus="page"
      aria-label={[title, of].filter(Boolean).join(", ")}
      className={`outline-none ${className ?? ""}`}
      onKeyDown={onKeyDown}
    >
      {heading === undefined ? <Heading className="sr-only">{title}</Heading> : heading}
      {children}
    </main>
  );
}

/** What stands there while a page is being fetched, or cannot be. */
export function Waiting({ children }: { children: ReactNode }) {
  return <main className="p-6 text-muted">{children}</main>;
}
