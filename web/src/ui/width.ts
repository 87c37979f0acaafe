// How wide something is drawn, in pixels, for pictures that place labels.
import { useCallback, useState } from "react";

/** A ref for the element, and its width once it is known; before, `usual`. */
export function useWidth(usual: number): [(element: HTMLElement | null) => void, number] {
  const [width, setWidth] = useState(usual);
  const ref = useCallback(
    (element: HTMLElement | null) => {
      if (!element) return;
      const observer = new ResizeObserver(() => setWidth(element.clientWidth || usual));
      observer.observe(element);
      return () => observer.disconnect();
    },
    [usual],
  );
  return [ref, width];
}
