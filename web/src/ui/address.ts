// The state of a view in its address, so that it can be shared, gone back to and reloaded.
import { parseAsString, useQueryStates } from "nuqs";
import { useCallback, useMemo } from "react";

type Parsers<T> = { [Name in keyof T]: ReturnType<typeof parserOf> };

const parserOf = (usual: string) => parseAsString.withDefault(usual);

/**
 * Like useState for a few texts that are kept in the address. `usual` must stay the same object;
 * what is as usual is left out. The screen follows at once, and the address takes no step of its own
 * in the history.
 */
export function useAddress<T extends Record<string, string>>(usual: T) {
  const parsers = useMemo(
    () =>
      Object.fromEntries(
        Object.entries(usual).map(([name, text]) => [name, parserOf(text)]),
      ) as Parsers<T>,
    [usual],
  );
  // The router is told, as the last view of each place is kept from its address.
  const [state, put] = useQueryStates(parsers, { history: "replace", shallow: false });
  const change = useCallback(
    (part: Partial<T>) => void put(part as Parameters<typeof put>[0]),
    [put],
  );
  return [state as T, change] as const;
}
